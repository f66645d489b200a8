import "server-only";

import { createHash } from "node:crypto";

import canonicalize from "canonicalize";
import { sealData, unsealData } from "iron-session";
import {
  calculateJwkThumbprint,
  CompactSign,
  compactVerify,
  decodeProtectedHeader,
  exportJWK,
  generateKeyPair,
  importJWK,
  type JWK,
} from "jose";
import type { Knex } from "knex";

import type { SignatureState } from "@/contract/certificate";

/**
 * Certificates are signed with Ed25519 as a compact JSON Web Signature (RFC 7515, RFC 8037) over their
 * content in canonical form (RFC 8785). Public keys, also retired ones, are published as a key set (RFC 7517)
 * at /.well-known/jwks.json.
 */

const ALG = "EdDSA";

const secret = (): string => {
  const value = process.env.SESSION_SECRET;
  if (!value || value.length < 32) throw new Error("SESSION_SECRET must hold at least 32 characters");
  return value;
};

type KeyRow = { kid: string; public_jwk: JWK; private_sealed: string | null; retired_at: Date | null };

/**
 * The key that signs now. A key that this server cannot unseal, since its secret changed, is retired and a
 * new one is made.
 */
async function signingKey(db: Knex): Promise<{ kid: string; jwk: JWK }> {
  await db.raw("select pg_advisory_xact_lock(hashtext('signing key'))");
  const row: KeyRow | undefined = await db("signing_key")
    .where({ retired_at: null })
    .orderBy("made_at", "desc")
    .first();
  if (row?.private_sealed) {
    const { jwk } = await unsealData<{ jwk?: JWK }>(row.private_sealed, { password: secret(), ttl: 0 }).catch(
      () => ({
        jwk: undefined,
      }),
    );
    if (jwk) return { kid: row.kid, jwk };
  }
  if (row)
    await db("signing_key").where({ kid: row.kid }).update({ retired_at: db.fn.now(), private_sealed: null });
  const pair = await generateKeyPair(ALG, { crv: "Ed25519", extractable: true });
  const [jwk, open] = await Promise.all([exportJWK(pair.privateKey), exportJWK(pair.publicKey)]);
  const kid = await calculateJwkThumbprint(open);
  await db("signing_key").insert({
    kid,
    public_jwk: JSON.stringify({ ...open, kid, alg: ALG, use: "sig" }),
    private_sealed: await sealData({ jwk }, { password: secret(), ttl: 0 }),
  });
  return { kid, jwk };
}

const canonical = (body: unknown): string => canonicalize(body) ?? "";
const digest = (text: string) => createHash("sha256").update(text, "utf8").digest();

/**
 * The address of a certificate is the first 160 bits of its content's digest: a printed address leads to that
 * content only.
 */
export const addressOfContent = (body: unknown): string =>
  digest(canonical(body)).subarray(0, 20).toString("base64url");

/** Signs a content. Call it inside the transaction that stores it. */
export async function signContent(db: Knex, body: unknown): Promise<{ jws: string; token: string }> {
  const { kid, jwk } = await signingKey(db);
  const jws = await new CompactSign(new TextEncoder().encode(canonical(body)))
    .setProtectedHeader({ alg: ALG, kid })
    .sign(await importJWK(jwk, ALG));
  return { jws, token: addressOfContent(body) };
}

/** Holds a stored content against its signature. */
export async function checkContent(db: Knex, body: unknown, jws: string): Promise<SignatureState> {
  if (jws === "") return { state: "unsigned" };
  const text = canonical(body);
  const sha256 = digest(text).toString("hex");
  let kid = "";
  try {
    kid = decodeProtectedHeader(jws).kid ?? "";
  } catch {
    return { state: "broken", kid, sha256 };
  }
  const row: KeyRow | undefined = await db("signing_key").where({ kid }).first();
  if (!row) return { state: "unknown-key", kid, sha256 };
  try {
    const { payload } = await compactVerify(jws, await importJWK(row.public_jwk, ALG), {
      algorithms: [ALG, "Ed25519"],
    });
    return new TextDecoder().decode(payload) === text
      ? { state: "good", kid, sha256, retired: row.retired_at !== null }
      : { state: "tampered", kid, sha256 };
  } catch {
    return { state: "broken", kid, sha256 };
  }
}

/** The public keys, the one that signs now first; retired ones stay, so that old certificates verify. */
export async function publicKeys(db: Knex): Promise<{ keys: JWK[] }> {
  const rows: KeyRow[] = await db("signing_key")
    .orderByRaw("retired_at is not null, made_at desc")
    .select("public_jwk");
  return { keys: rows.map((r) => r.public_jwk) };
}
