import Box from "@mui/material/Box";
import Link from "next/link";
import { say } from "@/words/frame";
import { Text } from "@/ui/kit/layout";

export default function NotFound() {
  return (
    <Box component="main" sx={{ maxWidth: 560, mx: "auto", px: 2, py: 10 }}>
      <Text component="h1" variant="h1" after={1}>
        {say("thereIsNothingAtThisAddress")}
      </Text>
      <Text after={2}>{say("theTagOrTheLinkMay")}</Text>
      <Link href="/">{say("toTheBench")}</Link>
    </Box>
  );
}
