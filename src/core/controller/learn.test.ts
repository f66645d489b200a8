import { type Learned, Learner, type Wish } from "./learn";

const REST = { axes: [0, 0, -1, 9 / 7], buttons: [0, 0] };
type State = { axes: number[]; buttons: number[] };

/** Holds rest, then each state in turn for 300 ms with rest between. */
function play(learner: Learner, states: State[]): Learned[] {
  let t = 0;
  const hold = (s: State) => {
    for (let i = 0; i < 30; i++) learner.add({ t: (t += 10), ...s });
  };
  hold(REST);
  for (const s of states) {
    hold(s);
    hold(REST);
  }
  return learner.result();
}
const axis = (i: number, v: number): State => ({
  axes: REST.axes.map((r, k) => (k === i ? v : r)),
  buttons: REST.buttons,
});
const button = (i: number): State => ({
  axes: REST.axes,
  buttons: REST.buttons.map((r, k) => (k === i ? 1 : r)),
});

test("a stick, also one that reads the other way round", () => {
  const wish: Wish[] = [{ id: "stick.left", kind: "stick" }];
  expect(play(new Learner(wish), [axis(0, 1), axis(1, 1)])).toEqual([
    { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  ]);
  expect(play(new Learner(wish), [axis(1, -1), axis(0, 1)])[0]!.input).toEqual({
    axes: [1, 0],
    flip: [true, false],
  });
});

test("a trigger on an axis knows where it rests and where it ends", () => {
  const learned = play(new Learner([{ id: "trigger.left", kind: "trigger" }]), [axis(2, 1)]);
  expect(learned[0]!.input).toEqual({ axis: 2, released: -1, pulled: 1 });
});

test("a direction hat on one axis gets its diagonals", () => {
  const ids = ["pad.up", "pad.right", "pad.down", "pad.left"];
  const values = [-1, -3 / 7, 1 / 7, 5 / 7];
  const learned = play(
    new Learner(ids.map((id) => ({ id, kind: "button" }))),
    values.map((v) => axis(3, v)),
  );
  expect(learned.map((l) => l.input)).toEqual([
    { hat: 3, values: [-1, 1, -0.7143] },
    { hat: 3, values: [-0.4286, -0.7143, -0.1429] },
    { hat: 3, values: [0.1429, -0.1428, 0.4286] },
    { hat: 3, values: [0.7143, 0.4286, 1] },
  ]);
});

test("buttons are told apart, one that is already known is not taken twice, and a missing one is skipped", () => {
  const learner = new Learner([
    { id: "face.south", kind: "button" },
    { id: "face.east", kind: "button" },
    { id: "home", kind: "button" },
  ]);
  expect(play(learner, [button(0), button(0), button(1)])).toEqual([
    { id: "face.south", kind: "button", input: { button: 0 } },
    { id: "face.east", kind: "button", input: { button: 1 } },
  ]);
  expect(learner.current?.wish.id).toBe("home");
  learner.skip();
  expect(learner.current).toBeNull();
});

test("a stick that is still held is waited for, before the next is asked", () => {
  const learner = new Learner([
    { id: "stick.left", kind: "stick" },
    { id: "face.south", kind: "button" },
  ]);
  play(learner, [axis(0, 1)]);
  let t = 10_000;
  const hold = (s: State, ms: number) => {
    for (let i = 0; i < ms / 10; i++) learner.add({ t: (t += 10), ...s });
  };
  hold(axis(1, -1), 2000);
  expect([learner.current?.wish.id, learner.waitsForRest]).toEqual(["face.south", true]);
  // a worn one that comes back badly holds nobody up
  hold(axis(1, -0.4), 400);
  expect(learner.waitsForRest).toBe(false);
});
