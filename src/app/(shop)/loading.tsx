import LinearProgress from "@mui/material/LinearProgress";

export default function Loading() {
  return <LinearProgress aria-label="Loading" />;
}
