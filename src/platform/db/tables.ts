/* Made by npm run tables from the migrated database: change a migration, not this file. */
import type { Id } from "@/core/base/ids";
import type { Json, Narrowed, Table } from "./columns";

export type AllocationRow = {
  id: Id<"allocation">;
  by: Id<"person">;
  at: Date;
  body: Json<"allocation.body">;
  value_minor: number;
};

export type AnswerRow = {
  id: Id<"answer">;
  request_id: string;
  question_id: Id<"question">;
  fault_id: Id<"fault">;
  choice: string;
  wording: Json<"answer.wording">;
  name: string;
  words: string;
  came_by: "page" | "told";
  by: Id<"person"> | null;
  at: Date;
};

export type AttemptRow = {
  id: Id<"attempt">;
  unit_id: Id<"unit">;
  by: Id<"person">;
  at: Date;
  number: number;
  suspect: string;
  action: Narrowed["attempt.action"];
  expects: string;
  what: string;
  outcome: "cured" | "better" | "same" | "worse" | null;
  undone: "came-back" | "stayed-away" | null;
  retest_id: Id<"recording"> | null;
  version: number;
  credit: number | null;
};

export type BackupRow = { id: Id<"backup">; file: string; bytes: string; taken_at: Date; checked_at: Date };

export type BatchRow = {
  id: Id<"batch">;
  by: Id<"person">;
  at: Date;
  code: string;
  part: string;
  source: "bought" | "donor" | "split" | "found" | "returned";
  supplier: string;
  donor_unit_id: Id<"unit"> | null;
  donor_slot: string | null;
  from_batch_id: Id<"batch"> | null;
  bin: string;
  pieces: number;
  cost_minor: number;
  on_hand: number;
  reserved: number;
  value_minor: number;
  status: "waiting" | "open" | "rejected" | "disposed";
  status_why: string;
  condition: string;
  figures: Json<"batch.figures">;
  version: number;
};

export type BenchReadingRow = {
  id: Id<"bench_reading">;
  unit_id: Id<"unit">;
  kind: Narrowed["bench_reading.kind"];
  subject: string;
  reading: Json<"bench_reading.reading">;
  result: Json<"bench_reading.result">;
  verdict: "pass" | "fail" | "not-tested";
  instrument: string;
  host: string;
  took_ms: number | null;
  by: Id<"person">;
  at: Date;
};

export type BenchTimeRow = {
  id: Id<"bench_time">;
  unit_id: Id<"unit">;
  person_id: Id<"person">;
  began_at: Date;
  seen_at: Date;
};

export type CalibrationRow = {
  id: Id<"calibration">;
  unit_id: Id<"unit">;
  by: Id<"person">;
  at: Date;
  stick: string;
  part: "centre" | "range";
  recording_id: Id<"recording">;
  table_before: Json<"calibration.table_before">;
  table_after: Json<"calibration.table_after">;
  read_back: Json<"calibration.read_back"> | null;
  saved_at: Date | null;
  port: string;
};

export type CertificateRow = {
  id: Id<"certificate">;
  unit_id: Id<"unit">;
  ending_id: Id<"ending">;
  token: string;
  body: Json<"certificate.body">;
  revoked_at: Date | null;
  revoked_why: string;
  by: Id<"person">;
  at: Date;
  jws: string;
  superseded_by: Id<"certificate"> | null;
};

export type ComebackRow = {
  id: Id<"comeback">;
  by: Id<"person">;
  at: Date;
  unit_id: Id<"unit">;
  mend_id: Id<"mend"> | null;
  words: string;
  released_at: Date;
  ending_id: Id<"ending"> | null;
  fitted_id: Id<"fitted"> | null;
  in_warranty: boolean | null;
  seal: "whole" | "broken" | "other" | null;
  seal_read: string;
};

export type CounterRow = { key: string; last: number };

export type CustomerRow = { id: Id<"customer">; name: string; contact: string; by: Id<"person">; at: Date };

export type DamageRow = {
  id: Id<"damage">;
  unit_id: Id<"unit">;
  by: Id<"person">;
  at: Date;
  place: string;
  what: string;
  clip_lost: boolean;
  still_firm: boolean | null;
  made_good: string;
  version: number;
};

export type DayPinRow = { task: string; person_id: Id<"person">; start_at: Date; by: Id<"person">; at: Date };

export type DecisionRow = {
  id: Id<"decision">;
  by: Id<"person">;
  at: Date;
  unit_id: Id<"unit">;
  disposition: Narrowed["decision.disposition"];
  route: string | null;
  why: string;
  faults: Json<"decision.faults">;
  advised: Json<"decision.advised">;
  forecast: Json<"decision.forecast">;
};

export type DeedReceiptRow = {
  request_id: Id<"deed_receipt">;
  deed: string;
  person_id: Id<"person">;
  reply: Json<"deed_receipt.reply">;
  at: Date;
};

export type DonorNoteRow = {
  id: Id<"donor_note">;
  unit_id: Id<"unit">;
  slot: string;
  state: "good" | "unknown" | "worn" | "bad" | "gone";
  words: string;
  by: Id<"person">;
  at: Date;
};

export type EndingRow = {
  id: Id<"ending">;
  unit_id: Id<"unit">;
  kind: "released" | "returned-unmended" | "sold-as-found" | "donor" | "scrap";
  grade: Narrowed["ending.grade"] | null;
  price_minor: number | null;
  warranty_days: number | null;
  known: string;
  limit_text: string;
  reason: string;
  proof_id: Id<"recording"> | null;
  before_id: Id<"recording"> | null;
  by: Id<"person">;
  at: Date;
};

export type EventRow = {
  id: Id<"event">;
  unit_id: Id<"unit"> | null;
  kind: Narrowed["event.kind"];
  body: Json<"event.body">;
  by: Id<"person"> | null;
  at: Date;
};

export type ExerciseRow = {
  id: Id<"exercise">;
  unit_id: Id<"unit">;
  person_id: Id<"person">;
  level: number;
  from_tag: string;
  hidden: Json<"exercise.hidden">;
  began_at: Date;
  ended_at: Date | null;
  score: Json<"exercise.score"> | null;
};

export type FaultRow = {
  id: Id<"fault">;
  unit_id: Id<"unit">;
  number: number;
  place: string;
  kind: string;
  words: string;
  found_when: "intake" | "test" | "opened" | "proof";
  claimed: boolean;
  measure: string | null;
  recording_id: Id<"recording"> | null;
  status: "open" | "mended" | "accepted" | "withdrawn";
  status_why: string;
  version: number;
  by: Id<"person">;
  at: Date;
  cause: Narrowed["fault.cause"];
};

export type FeedRow = {
  id: Id<"feed">;
  person_id: Id<"person">;
  token_sha256: string;
  name: string;
  made_at: Date;
  revoked_at: Date | null;
};

export type FittedRow = {
  id: Id<"fitted">;
  by: Id<"person">;
  at: Date;
  unit_id: Id<"unit">;
  slot: string;
  part: string;
  count: number;
  batch_id: Id<"batch"> | null;
  from_unit_id: Id<"unit"> | null;
  mend_id: Id<"mend"> | null;
  cost_minor: number;
  condition: string;
  figures: Json<"fitted.figures">;
  deviation: string;
  feel: number | null;
  feel_words: string;
  removed_at: Date | null;
  removed_why: string;
  cover_days: number | null;
};

export type FragmentRow = {
  id: Id<"fragment">;
  unit_id: Id<"unit">;
  by: Id<"person">;
  at: Date;
  number: number;
  found_at: string;
  what: string;
  matched_to: string | null;
  explained: string;
  version: number;
};

export type FunctionCheckRow = {
  id: Id<"function_check">;
  unit_id: Id<"unit">;
  function_id: string;
  result: "pass" | "fail" | "not-tested" | "not-fitted";
  note: string;
  by: Id<"person">;
  at: Date;
  reading_id: Id<"bench_reading"> | null;
  took_ms: number | null;
};

export type HalvingRow = {
  id: Id<"halving">;
  unit_id: Id<"unit">;
  by: Id<"person">;
  at: Date;
  pair: Narrowed["halving.pair"];
  items: Json<"halving.items">;
  steps: Json<"halving.steps">;
  closed: boolean;
  version: number;
  ended_at: Date | null;
};

export type HandoverRow = {
  id: Id<"handover">;
  unit_id: Id<"unit">;
  ending_id: Id<"ending">;
  kind: "sold" | "returned";
  channel: string;
  price_minor: number | null;
  fees_minor: number;
  handed_on: string;
  unit_until: string | null;
  parts_until: string | null;
  buyer: string;
  contact: string;
  by: Id<"person">;
  at: Date;
};

export type HeatRow = {
  id: Id<"heat">;
  unit_id: Id<"unit">;
  by: Id<"person">;
  at: Date;
  job: string;
  celsius: number;
  exception: string;
  method: string;
  chips: Json<"heat.chips">;
  shielded: string;
  holes: Json<"heat.holes">;
  joints: Json<"heat.joints">;
};

export type ListingRow = {
  id: Id<"listing">;
  by: Id<"person">;
  at: Date;
  profile_key: string;
  words: string;
  seller: string;
  price_minor: number;
  carriage_minor: number;
  risk: string;
  worth_minor: number;
  highest_minor: number | null;
  status: "watched" | "bought" | "passed" | "arrived";
  unit_id: Id<"unit"> | null;
  version: number;
};

export type LotRow = {
  id: Id<"lot">;
  code: string;
  seller: string;
  price_minor: number;
  carriage_minor: number;
  by: Id<"person">;
  at: Date;
  spread_way: "value" | "even" | "hand";
  units_promised: number | null;
  version: number;
};

export type LotSpreadRow = {
  id: Id<"lot_spread">;
  by: Id<"person">;
  at: Date;
  lot_id: Id<"lot">;
  way: string;
  why: string;
  shares: Json<"lot_spread.shares">;
};

export type MendRow = {
  id: Id<"mend">;
  unit_id: Id<"unit">;
  fault_id: Id<"fault"> | null;
  number: number;
  what: string;
  part: string;
  minutes: number;
  remark: string;
  opened: boolean;
  after_recording_id: Id<"recording"> | null;
  version: number;
  by: Id<"person">;
  at: Date;
  route: string | null;
  outcome: "worked" | "failed" | null;
  part_minor: number;
  part_gift: string;
  fallback: string;
  review_on: string | null;
  credit: number | null;
};

export type ModelProfileRow = {
  id: Id<"model_profile">;
  key: string;
  version: number;
  body: Json<"model_profile.body">;
  by: Id<"person">;
  at: Date;
  name: string;
};

export type MovementRow = {
  id: Id<"movement">;
  batch_id: Id<"batch">;
  kind: string;
  delta: number;
  minor: number;
  unit_id: Id<"unit"> | null;
  why: string;
  by: Id<"person">;
  at: Date;
};

export type ObservationRow = {
  id: Id<"observation">;
  unit_id: Id<"unit">;
  by: Id<"person">;
  at: Date;
  kind: "function" | "check" | "place" | "point";
  target: string;
  outcome: string;
  value: number | null;
  note: string;
  withdrawn: boolean;
};

export type OrderLineRow = {
  id: Id<"order_line">;
  order_id: Id<"purchase_order">;
  part: string;
  pack: number;
  packs: number;
  cost_minor: number;
  batch_id: Id<"batch"> | null;
};

export type OutcomeRow = {
  unit_id: Id<"unit">;
  model: string;
  revision: string | null;
  source: string;
  seller: string;
  ending: Narrowed["outcome.ending"];
  grade: Narrowed["outcome.grade"] | null;
  closed_at: Date;
  sold_on: string | null;
  price_minor: number;
  margin_minor: number;
  minutes: number;
  forecast_minor: number | null;
  forecast_low_minor: number | null;
  forecast_high_minor: number | null;
  routes: readonly string[];
  families: readonly string[];
  poor_parcel: boolean;
  differed: boolean;
  faults: number;
  faults_claimed: number;
};

export type PaperRow = {
  id: Id<"paper">;
  kind: "offer" | "bill" | "receipt";
  number: number;
  unit_id: Id<"unit">;
  lot_id: Id<"lot"> | null;
  of_id: string;
  corrects: Id<"paper"> | null;
  body: Json<"paper.body">;
  by: Id<"person">;
  at: Date;
};

export type PersonRow = {
  id: Id<"person">;
  name: string;
  role: "technician" | "lead" | "viewer";
  password_hash: string;
  active: boolean;
  created_at: Date;
  skill: number;
  hours: Json<"person.hours"> | null;
};

export type PhotoRow = {
  id: Id<"photo">;
  unit_id: Id<"unit">;
  image: Buffer;
  thumb: Buffer;
  width: number;
  height: number;
  sha256: string;
  caption: string;
  removed: boolean;
  by: Id<"person">;
  at: Date;
  step: string | null;
};

export type PieceReadingRow = {
  id: Id<"piece_reading">;
  by: Id<"person">;
  at: Date;
  batch_id: Id<"batch">;
  number: number;
  body: Json<"piece_reading.body">;
  verdict: "good" | "bad";
  findings: Json<"piece_reading.findings">;
  instrument: string;
  took_ms: number;
};

export type ProofCheckRow = {
  id: Id<"proof_check">;
  unit_id: Id<"unit">;
  key: string;
  result: "pass" | "fail" | "cannot";
  value: number | null;
  note: string;
  by: Id<"person">;
  at: Date;
};

export type PurchaseOrderRow = {
  id: Id<"purchase_order">;
  by: Id<"person">;
  at: Date;
  code: string;
  supplier: string;
  carriage_minor: number;
  expected_on: string;
  status: "open" | "arrived" | "cancelled";
};

export type QuestionRow = {
  id: Id<"question">;
  by: Id<"person">;
  at: Date;
  unit_id: Id<"unit">;
  number: number;
  token: string;
  body: Json<"question.body">;
  expires_at: Date;
  withdrawn_at: Date | null;
};

export type RecordingRow = {
  id: Id<"recording">;
  unit_id: Id<"unit">;
  purpose: "quick" | "full" | "spot";
  source: "gamepad" | "simulated" | "playback" | "import";
  tester: Json<"recording.tester">;
  profile_id: Id<"model_profile">;
  revision: string | null;
  started_at: Date;
  samples: number;
  duration_ms: number;
  csv_gz: Buffer;
  sha256: string;
  analysis: Json<"recording.analysis">;
  plots: Json<"recording.plots">;
  grades: Json<"recording.grades">;
  quick: Json<"recording.quick"> | null;
  grade: Narrowed["recording.grade"];
  by: Id<"person">;
  at: Date;
  spot: Json<"recording.spot"> | null;
  taken_by: Id<"person"> | null;
  taken_why: string | null;
  taken_at: Date | null;
  opened_at: Date | null;
};

export type ReservationRow = {
  id: Id<"reservation">;
  by: Id<"person">;
  at: Date;
  unit_id: Id<"unit">;
  slot: string;
  part: string;
  count: number;
  batch_id: Id<"batch"> | null;
  donor_unit_id: Id<"unit"> | null;
  donor_slot: string | null;
  allocation_id: Id<"allocation"> | null;
  status: "open" | "used" | "released";
};

export type SessionRow = {
  id: Id<"session">;
  token_sha256: string;
  person_id: Id<"person">;
  agent: string;
  address: string;
  at: Date;
  seen_at: Date;
  confirmed_at: Date | null;
  practice: boolean;
  ended_at: Date | null;
};

export type SettingRow = { key: string; value: Json<"setting.value">; version: number };

export type SignInAttemptRow = {
  id: Id<"sign_in_attempt">;
  name: string;
  address: string;
  ok: boolean;
  at: Date;
};

export type SigningKeyRow = {
  kid: string;
  public_jwk: Json<"signing_key.public_jwk">;
  private_sealed: string | null;
  made_at: Date;
  retired_at: Date | null;
};

export type StageDayRow = { day: string; model: string; stage: string; delta: number };

export type StayRow = {
  id: Id<"stay">;
  unit_id: Id<"unit">;
  stage: Narrowed["stay.stage"];
  came_at: Date;
  left_at: Date | null;
};

export type SymptomRow = {
  id: Id<"symptom">;
  unit_id: Id<"unit">;
  fault_id: Id<"fault">;
  place: string;
  kind: string;
  words: string;
  measure: string | null;
  recording_id: Id<"recording"> | null;
  cured_at: Date | null;
  by: Id<"person">;
  at: Date;
};

export type TestOpenRow = { id: Id<"test_open">; unit_id: Id<"unit">; by: Id<"person">; at: Date };

export type TipRow = {
  id: Id<"tip">;
  model: string;
  step: string | null;
  kind: "surprise" | "better-idea" | "tip" | "missed" | "step";
  words: string;
  source: string;
  state: "open" | "confirmed" | "refuted" | "adopted";
  unit_id: Id<"unit"> | null;
  body: Json<"tip.body"> | null;
  by: Id<"person">;
  at: Date;
};

export type UnitRow = {
  id: Id<"unit">;
  tag: string;
  profile_id: Id<"model_profile">;
  revision: string | null;
  source: "single" | "lot" | "customer";
  lot_id: Id<"lot"> | null;
  customer_id: Id<"customer"> | null;
  seller: string;
  price_minor: number | null;
  carriage_minor: number | null;
  claim: string;
  intake: Json<"unit.intake">;
  swollen: boolean;
  liquid: boolean;
  liquid_cleared: Json<"unit.liquid_cleared"> | null;
  tray: number | null;
  stage: Narrowed["unit.stage"];
  next_action: Narrowed["unit.next_action"];
  ending: Narrowed["unit.ending"] | null;
  version: number;
  changed_by: Id<"person">;
  changed_at: Date;
  received_at: Date;
  closed_at: Date | null;
  reference_since: Date | null;
  lot_share_minor: number | null;
  hand_share_minor: number | null;
  expected_minor: number | null;
  due_on: string | null;
  handed_on: string | null;
};

export type WaitRow = {
  id: Id<"wait">;
  unit_id: Id<"unit"> | null;
  kind: Narrowed["wait.kind"];
  what: string;
  ends_at: Date;
  seen_at: Date | null;
  seen_by: Id<"person"> | null;
  outcome: string;
  by: Id<"person">;
  at: Date;
};

export type WorkEventRow = {
  id: Id<"work_event">;
  work_order_id: Id<"work_order">;
  body: Json<"work_event.body">;
  minutes: number | null;
  note: string;
  mend_id: Id<"mend"> | null;
  undone: boolean;
  by: Id<"person">;
  at: Date;
};

export type WorkOrderRow = {
  id: Id<"work_order">;
  unit_id: Id<"unit">;
  by: Id<"person">;
  at: Date;
  profile_id: Id<"model_profile">;
  revision: string | null;
  body: Json<"work_order.body">;
  status: "open" | "closed" | "dropped";
  closed_at: Date | null;
  version: number;
};

/** The row of each table. */
export type TableRow = {
  allocation: AllocationRow;
  answer: AnswerRow;
  attempt: AttemptRow;
  backup: BackupRow;
  batch: BatchRow;
  bench_reading: BenchReadingRow;
  bench_time: BenchTimeRow;
  calibration: CalibrationRow;
  certificate: CertificateRow;
  comeback: ComebackRow;
  counter: CounterRow;
  customer: CustomerRow;
  damage: DamageRow;
  day_pin: DayPinRow;
  decision: DecisionRow;
  deed_receipt: DeedReceiptRow;
  donor_note: DonorNoteRow;
  ending: EndingRow;
  event: EventRow;
  exercise: ExerciseRow;
  fault: FaultRow;
  feed: FeedRow;
  fitted: FittedRow;
  fragment: FragmentRow;
  function_check: FunctionCheckRow;
  halving: HalvingRow;
  handover: HandoverRow;
  heat: HeatRow;
  listing: ListingRow;
  lot: LotRow;
  lot_spread: LotSpreadRow;
  mend: MendRow;
  model_profile: ModelProfileRow;
  movement: MovementRow;
  observation: ObservationRow;
  order_line: OrderLineRow;
  outcome: OutcomeRow;
  paper: PaperRow;
  person: PersonRow;
  photo: PhotoRow;
  piece_reading: PieceReadingRow;
  proof_check: ProofCheckRow;
  purchase_order: PurchaseOrderRow;
  question: QuestionRow;
  recording: RecordingRow;
  reservation: ReservationRow;
  session: SessionRow;
  setting: SettingRow;
  sign_in_attempt: SignInAttemptRow;
  signing_key: SigningKeyRow;
  stage_day: StageDayRow;
  stay: StayRow;
  symptom: SymptomRow;
  test_open: TestOpenRow;
  tip: TipRow;
  unit: UnitRow;
  wait: WaitRow;
  work_event: WorkEventRow;
  work_order: WorkOrderRow;
};

type TableTypes = {
  allocation: Table<AllocationRow, "id" | "at">;
  answer: Table<AnswerRow, "id" | "words" | "by" | "at">;
  attempt: Table<AttemptRow, "id" | "at" | "outcome" | "undone" | "retest_id" | "version" | "credit">;
  backup: Table<BackupRow, "id" | "checked_at">;
  batch: Table<
    BatchRow,
    | "id"
    | "at"
    | "supplier"
    | "donor_unit_id"
    | "donor_slot"
    | "from_batch_id"
    | "reserved"
    | "status_why"
    | "condition"
    | "figures"
    | "version"
  >;
  bench_reading: Table<BenchReadingRow, "id" | "took_ms" | "at">;
  bench_time: Table<BenchTimeRow, "id" | "began_at" | "seen_at">;
  calibration: Table<CalibrationRow, "id" | "at" | "read_back" | "saved_at">;
  certificate: Table<CertificateRow, "id" | "revoked_at" | "revoked_why" | "at" | "jws" | "superseded_by">;
  comeback: Table<
    ComebackRow,
    "id" | "at" | "mend_id" | "ending_id" | "fitted_id" | "in_warranty" | "seal" | "seal_read"
  >;
  counter: Table<CounterRow, never>;
  customer: Table<CustomerRow, "id" | "at">;
  damage: Table<DamageRow, "id" | "at" | "clip_lost" | "still_firm" | "made_good" | "version">;
  day_pin: Table<DayPinRow, "at">;
  decision: Table<DecisionRow, "id" | "at" | "route" | "why">;
  deed_receipt: Table<DeedReceiptRow, "at">;
  donor_note: Table<DonorNoteRow, "id" | "words" | "at">;
  ending: Table<
    EndingRow,
    | "id"
    | "grade"
    | "price_minor"
    | "warranty_days"
    | "known"
    | "limit_text"
    | "reason"
    | "proof_id"
    | "before_id"
    | "at"
  >;
  event: Table<EventRow, "id" | "unit_id" | "by" | "at">;
  exercise: Table<ExerciseRow, "id" | "from_tag" | "began_at" | "ended_at" | "score">;
  fault: Table<
    FaultRow,
    "id" | "claimed" | "measure" | "recording_id" | "status" | "status_why" | "version" | "at" | "cause"
  >;
  feed: Table<FeedRow, "id" | "made_at" | "revoked_at">;
  fitted: Table<
    FittedRow,
    | "id"
    | "at"
    | "batch_id"
    | "from_unit_id"
    | "mend_id"
    | "figures"
    | "deviation"
    | "feel"
    | "feel_words"
    | "removed_at"
    | "removed_why"
    | "cover_days"
  >;
  fragment: Table<FragmentRow, "id" | "at" | "matched_to" | "explained" | "version">;
  function_check: Table<FunctionCheckRow, "id" | "note" | "at" | "reading_id" | "took_ms">;
  halving: Table<HalvingRow, "id" | "at" | "closed" | "version" | "ended_at">;
  handover: Table<
    HandoverRow,
    | "id"
    | "channel"
    | "price_minor"
    | "fees_minor"
    | "unit_until"
    | "parts_until"
    | "buyer"
    | "contact"
    | "at"
  >;
  heat: Table<HeatRow, "id" | "at" | "exception" | "shielded">;
  listing: Table<ListingRow, "id" | "at" | "highest_minor" | "status" | "unit_id" | "version">;
  lot: Table<LotRow, "id" | "at" | "spread_way" | "units_promised" | "version">;
  lot_spread: Table<LotSpreadRow, "id" | "at">;
  mend: Table<
    MendRow,
    | "id"
    | "fault_id"
    | "part"
    | "remark"
    | "after_recording_id"
    | "version"
    | "at"
    | "route"
    | "outcome"
    | "part_minor"
    | "part_gift"
    | "fallback"
    | "review_on"
    | "credit"
  >;
  model_profile: Table<ModelProfileRow, "id" | "at" | "name">;
  movement: Table<MovementRow, "id" | "unit_id" | "why" | "at">;
  observation: Table<ObservationRow, "id" | "at" | "value" | "note" | "withdrawn">;
  order_line: Table<OrderLineRow, "id" | "batch_id">;
  outcome: Table<
    OutcomeRow,
    "revision" | "grade" | "sold_on" | "forecast_minor" | "forecast_low_minor" | "forecast_high_minor"
  >;
  paper: Table<PaperRow, "id" | "lot_id" | "corrects" | "at">;
  person: Table<PersonRow, "id" | "active" | "created_at" | "skill" | "hours">;
  photo: Table<PhotoRow, "id" | "caption" | "removed" | "at" | "step">;
  piece_reading: Table<PieceReadingRow, "id" | "at">;
  proof_check: Table<ProofCheckRow, "id" | "value" | "note" | "at">;
  purchase_order: Table<PurchaseOrderRow, "id" | "at" | "status">;
  question: Table<QuestionRow, "id" | "at" | "withdrawn_at">;
  recording: Table<
    RecordingRow,
    "revision" | "quick" | "at" | "spot" | "taken_by" | "taken_why" | "taken_at" | "opened_at"
  >;
  reservation: Table<
    ReservationRow,
    "id" | "at" | "batch_id" | "donor_unit_id" | "donor_slot" | "allocation_id" | "status"
  >;
  session: Table<SessionRow, "id" | "at" | "seen_at" | "confirmed_at" | "practice" | "ended_at">;
  setting: Table<SettingRow, "version">;
  sign_in_attempt: Table<SignInAttemptRow, "id" | "at">;
  signing_key: Table<SigningKeyRow, "private_sealed" | "made_at" | "retired_at">;
  stage_day: Table<StageDayRow, never>;
  stay: Table<StayRow, "id" | "left_at">;
  symptom: Table<SymptomRow, "id" | "words" | "measure" | "recording_id" | "cured_at" | "at">;
  test_open: Table<TestOpenRow, "at">;
  tip: Table<TipRow, "id" | "step" | "source" | "state" | "unit_id" | "body" | "at">;
  unit: Table<
    UnitRow,
    | "id"
    | "revision"
    | "lot_id"
    | "customer_id"
    | "seller"
    | "price_minor"
    | "carriage_minor"
    | "swollen"
    | "liquid"
    | "liquid_cleared"
    | "tray"
    | "ending"
    | "version"
    | "changed_at"
    | "received_at"
    | "closed_at"
    | "reference_since"
    | "lot_share_minor"
    | "hand_share_minor"
    | "expected_minor"
    | "due_on"
    | "handed_on"
  >;
  wait: Table<WaitRow, "id" | "unit_id" | "seen_at" | "seen_by" | "outcome" | "at">;
  work_event: Table<WorkEventRow, "id" | "minutes" | "note" | "mend_id" | "undone" | "at">;
  work_order: Table<WorkOrderRow, "id" | "at" | "revision" | "status" | "closed_at" | "version">;
};

declare module "knex/types/tables" {
  // eslint-disable-next-line @typescript-eslint/no-empty-object-type -- how Knex is told
  interface Tables extends TableTypes {}
}
