import { adviceJsonSchema, caseJsonSchema } from "@/core/casefile/format";
import { reader, route } from "@/platform/http/http";

/** The JSON Schema of the case format, or with ?of=advice of what is printed for a case. */
async function get(request: Request): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const schema =
    new URL(request.url).searchParams.get("of") === "advice" ? adviceJsonSchema() : caseJsonSchema();
  return Response.json(schema, { headers: { "Cache-Control": "private, max-age=3600" } });
}

export const GET = route("GET case-schema", get);
