import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { say } from "@/words/frame";

export default function NotFound() {
  return (
    <Box component="main" sx={{ maxWidth: 560, mx: "auto", px: 2, py: 10 }}>
      <Typography component="h1" variant="h1" sx={{ mb: 1 }}>
        {say("thereIsNothingAtThisAddress")}
      </Typography>
      <Typography sx={{ mb: 2 }}>{say("theTagOrTheLinkMay")}</Typography>
      <Link href="/">{say("toTheBench")}</Link>
    </Box>
  );
}
