import { houseDatabase } from "@/platform/db/connection";
import { calendarOf } from "@/features/account/feed";
import { route } from "@/platform/http/http";
import { say } from "@/words/frame";

/** Due days and ends of cover for a calendar program (RFC 5545), by an address that can be taken back. */
async function get(_request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  const calendar = await calendarOf(houseDatabase(), (await params).token);
  if (calendar === null) return new Response(say("thereIsNoCalendarAtThis"), { status: 404 });
  return new Response(calendar, {
    headers: { "Content-Type": "text/calendar; charset=utf-8", "Cache-Control": "no-store" },
  });
}

export const GET = route("GET calendar/[token]", get);
