import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource-variable/atkinson-hyperlegible-mono";

import CssBaseline from "@mui/material/CssBaseline";
import InitColorSchemeScript from "@mui/material/InitColorSchemeScript";
import { ThemeProvider } from "@mui/material/styles";
import { AppRouterCacheProvider } from "@mui/material-nextjs/v16-appRouter";
import type { Metadata, Viewport } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";

import { houseDatabase } from "@/platform/db/connection";
import { loadSettings } from "@/features/settings/settings";
import { figuresAsIn, localeOfFigures, currencyOfFigures } from "@/text/format";
import { Listening } from "@/ui/frame/Listening";
import { theme } from "@/ui/theme";
import { LANGUAGE } from "@/words/language";
import { say } from "@/words/frame";

export const metadata: Metadata = {
  title: { default: "Birdcage", template: "%s · Birdcage" },
  description: say("theBenchForRefurbishingControllers"),
};
export const viewport: Viewport = { width: "device-width", initialScale: 1 };
export const dynamic = "force-dynamic";

/** How this shop writes figures; while its database is away, how it wrote them last. */
async function writtenAs(): Promise<{ "data-locale": string; "data-currency": string }> {
  try {
    const { settings } = await loadSettings(houseDatabase());
    figuresAsIn(settings.locale, settings.currency);
  } catch {
    // the page itself says what is wrong
  }
  return { "data-locale": localeOfFigures(), "data-currency": currencyOfFigures() };
}

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get("x-nonce") ?? undefined;
  return (
    <html lang={LANGUAGE} {...await writtenAs()} suppressHydrationWarning>
      <body>
        <InitColorSchemeScript attribute="data-scheme" defaultMode="system" nonce={nonce} />
        <AppRouterCacheProvider options={{ key: "bc", nonce }}>
          <ThemeProvider theme={theme} defaultMode="system">
            <CssBaseline enableColorScheme />
            {children}
            <Listening />
          </ThemeProvider>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
