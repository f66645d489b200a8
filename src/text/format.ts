import type { Settings } from "@/contract/deeds";

/** Dates and money by the shop's locale. The only place that formats them. */

type Shop = Pick<Settings, "locale" | "timeZone" | "currency">;

export const money = (minor: number | null, { locale, currency }: Shop): string =>
  minor === null ? "not stated" : new Intl.NumberFormat(locale, { style: "currency", currency }).format(minor / 100);

const dated = (shop: Shop, iso: string, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat(shop.locale, { timeZone: shop.timeZone, ...options }).format(new Date(iso));

export const day = (iso: string, shop: Shop): string => dated(shop, iso, { day: "numeric", month: "short", year: "numeric" });
export const dayAndTime = (iso: string, shop: Shop): string =>
  dated(shop, iso, { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
