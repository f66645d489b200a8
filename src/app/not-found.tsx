import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import Link from "next/link";

export default function NotFound() {
  return (
    <Box component="main" sx={{ maxWidth: 560, mx: "auto", px: 2, py: 10 }}>
      <Typography component="h1" variant="h1" sx={{ mb: 1 }}>
        There is nothing at this address
      </Typography>
      <Typography sx={{ mb: 2 }}>The tag or the link may have a typing error, or what was here has been taken away.</Typography>
      <Link href="/">To the bench</Link>
    </Box>
  );
}
