import "server-only";

import type { Knex } from "knex";

import type { DeedName, DeedParsed, ValueOf } from "@/contract/deeds";
import type { EventKind, SubjectOf } from "@/contract/events";
import { type Actor, Refused } from "./base";
import type { BatchRow, UnitRow } from "@/platform/db/tables";
import type { Id } from "@/core/base/ids";

/**
 * A deed is a declaration and a body. The declaration says what is locked and looked at before the body
 * begins; the body changes rows and says what happened. The rest is the runner's (run.ts), so that no deed
 * can forget it: role and input, the transaction, the order of locks, the events, what follows from them, the
 * receipt, and what an error becomes.
 */

/** Says what happened; the runner writes it down once the body is through, in this order. */
export type Note = <K extends EventKind>(kind: K, unitId: SubjectOf<K>, body: object) => void;

/** What a body and its helpers work with: the transaction, who acts, and what was locked for them. */
export type Work = {
  readonly db: Knex;
  readonly actor: Actor;
  readonly note: Note;
  readonly units: ReadonlyMap<string, UnitRow>;
  readonly batches: ReadonlyMap<string, BatchRow>;
};

type Named = string | null;
/**
 * The row of an id that the declaration names: none where it names none, and null where it may name nobody.
 */
type Row<I extends Named, R> = [I] extends [never] ? undefined : null extends I ? R | null : R;
type Later<T> = T | Promise<T>;

export type Locks<I, U extends Named = Named, B extends Named = Named> = {
  /** the unit that is changed; it must be there */
  unit?: (input: I, db: Knex) => Later<U>;
  /** other units that it bears on */
  units?: (input: I, db: Knex) => Later<readonly string[]>;
  /** the batch that is changed; it must be there */
  batch?: (input: I, db: Knex) => Later<B>;
  batches?: (input: I, db: Knex) => Later<readonly string[]>;
  /** whose version the input's `version` is: refused when it was changed since the person looked */
  seen?: "unit" | "batch";
  /** the unit must be open and out of quarantine */
  workable?: true;
};

type BodyOf<I, V, U extends Named, B extends Named, P> = (
  work: Work & { readonly unit: Row<U, UnitRow>; readonly batch: Row<B, BatchRow>; readonly prepared: P },
  input: I,
) => Promise<V>;

/**
 * What takes long and holds nobody up: it is done before anything is locked. The body looks whether it still
 * fits.
 */
type Prepare<I, P> = (input: I, db: Knex) => Promise<P>;

/**
 * What was prepared no longer fits, since somebody changed what it rests on: the runner prepares once more
 * and tries again.
 */
export class Stale extends Error {}

/** A change with its locks, for the runner. */
export type Change<I, V> = {
  readonly locks: Locks<I>;
  readonly body: (
    work: Work & { readonly unit: unknown; readonly batch: unknown; readonly prepared: unknown },
    input: I,
  ) => Promise<V>;
};
export type Deed<D extends DeedName> = Change<DeedParsed<D>, ValueOf<D>> & {
  readonly name: D;
  readonly prepare?: Prepare<DeedParsed<D>, unknown> | undefined;
};

/** A change that is no deed of the list: what its caller prepared is its input. */
export const change = <I, V, U extends Named = never, B extends Named = never>(
  locks: Locks<I, U, B>,
  body: BodyOf<I, V, U, B, undefined>,
): Change<I, V> => ({ locks, body: body as Change<I, V>["body"] });

export const deed = <D extends DeedName, U extends Named = never, B extends Named = never, P = undefined>(
  name: D,
  { prepare, ...locks }: Locks<DeedParsed<D>, U, B> & { prepare?: Prepare<DeedParsed<D>, P> },
  body: BodyOf<DeedParsed<D>, ValueOf<D>, U, B, P>,
): Deed<D> => ({ name, locks, prepare, body: body as Deed<D>["body"] });

/** The unit that a row of another table belongs to; refused, in words, when there is no such row. */
export const unitOf =
  <I>(table: string, idOf: (input: I) => string, what: string) =>
  async (input: I, db: Knex): Promise<string> => {
    const row: { unit_id: string } | undefined = await db(table)
      .where({ id: idOf(input) })
      .first("unit_id");
    if (!row) throw new Refused({ code: "not-found", what });
    return row.unit_id;
  };

/** The unit that the input names. */
export const namedUnit = (input: { unitId: Id<"unit"> }): string => input.unitId;
