import { profileJsonSchema } from "@/core/profile/json-schema";
import { reader, route } from "@/platform/http/http";

/** The JSON Schema of the profile format. */
async function get(): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  return Response.json(profileJsonSchema(), { headers: { "Cache-Control": "private, max-age=3600" } });
}

export const GET = route("GET profile-schema", get);
