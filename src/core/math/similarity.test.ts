import { inverse, moved, type Place, similarity } from "./similarity";
import { seeded } from "./random";

const near = (a: Place, b: Place) => Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-9;

test("two places are taken to two others, by hand", () => {
  expect(similarity([[0, 0], [1, 0]], [[5, 5], [5, 7]])).toEqual({ a: 0, b: 2, e: 5, f: 5 }); // prettier-ignore
  expect(similarity([[3, 3], [3, 3]], [[0, 0], [1, 1]])).toBeNull(); // prettier-ignore
});

test("any two go where they should, lengths keep their ratio, and the way back leads back", () => {
  const chance = seeded(3);
  const place = (): Place => [200 * chance.next() - 100, 200 * chance.next() - 100];
  for (let i = 0; i < 200; i++) {
    const [p1, p2, q1, q2, other] = [place(), place(), place(), place(), place()];
    const s = similarity([p1, p2], [q1, q2])!;
    expect([near(moved(s, p1), q1), near(moved(s, p2), q2)]).toEqual([true, true]);
    const scale = Math.hypot(s.a, s.b);
    const [ox, oy] = moved(s, other);
    expect(Math.hypot(ox - q1[0], oy - q1[1])).toBeCloseTo(
      scale * Math.hypot(other[0] - p1[0], other[1] - p1[1]),
      6,
    );
    const back = moved(inverse(s)!, moved(s, other));
    expect(Math.hypot(back[0] - other[0], back[1] - other[1])).toBeLessThan(1e-6);
  }
  expect(inverse({ a: 0, b: 0, e: 1, f: 1 })).toBeNull();
});
