import { profileJsonSchema } from "@/core/profile/json-schema";
import { reader } from "@/door/http";

/** The JSON Schema of the profile format. */
export async function GET(): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  return Response.json(profileJsonSchema(), { headers: { "Cache-Control": "private, max-age=3600" } });
}
