import { SimulatedMeter, SimulatedSerialMeter } from "../simulate/instruments";
import { type LinePort, readNumber, ScpiMeter } from "./scpi";

const opened = async (answers: Record<string, string[]>) => {
  const port = new SimulatedSerialMeter(answers);
  const meter = await ScpiMeter.open(port);
  if (!meter.ok) throw new Error(meter.problem.code);
  return { port, meter: meter.value };
};

test("it asks who is there, then each quantity by its query", async () => {
  const { port, meter } = await opened({
    "MEAS:VOLT:DC?": ["+3.71200E+00"],
    "MEAS:RES?": ["5012.4"],
    "MEAS:CURR:DC?": ["0.25"],
  });
  expect(meter.label).toBe("Oxmere Instruments,M1,0001,1.0");
  expect(await meter.read("volts")).toEqual({ ok: true, value: 3.712 });
  expect(await meter.read("ohms")).toEqual({ ok: true, value: 5012.4 });
  expect(await meter.read("milliamps")).toEqual({ ok: true, value: 250 });
  expect(port.asked).toEqual(["*CLS", "*IDN?", "MEAS:VOLT:DC?", "MEAS:RES?", "MEAS:CURR:DC?"]);
});

test("an overload is told as one, and is an open circuit to the caller", async () => {
  const { meter } = await opened({ "MEAS:RES?": ["9.9E37"] });
  expect(await meter.read("ohms")).toEqual({ ok: false, problem: { code: "overload" } });
});

test("an answer that came late is not taken for the next one", async () => {
  const { port, meter } = await opened({ "MEAS:VOLT:DC?": ["4.1"] });
  port.babble("0.001");
  expect(await meter.read("volts")).toEqual({ ok: true, value: 4.1 });
});

test("rubbish is refused, with the instrument's own error when it has one", async () => {
  const { meter } = await opened({ "MEAS:VOLT:DC?": ["ERR"], "SYST:ERR?": ['-113,"Undefined header"'] });
  expect(await meter.read("volts")).toEqual({
    ok: false,
    problem: { code: "instrument-error", text: '-113,"Undefined header"' },
  });
  const calm = await opened({ "MEAS:VOLT:DC?": ["3.7 V or so"], "SYST:ERR?": ['0,"No error"'] });
  expect(await calm.meter.read("volts")).toMatchObject({ ok: false, problem: { code: "not-understood" } });
});

test("silence and a pulled plug are told apart, and two readings at once do not mix", async () => {
  const silent: LinePort = {
    lost: false,
    write: () => Promise.resolve(),
    readLine: () => Promise.resolve(null),
  };
  expect(await ScpiMeter.open(silent)).toMatchObject({ ok: false, problem: { code: "no-answer" } });
  expect(await ScpiMeter.open({ ...silent, lost: true })).toMatchObject({
    ok: false,
    problem: { code: "line-lost" },
  });
  const { meter } = await opened({ "MEAS:VOLT:DC?": ["3.7", "3.6"], "MEAS:RES?": ["100"] });
  const [a, b, c] = await Promise.all([meter.read("volts"), meter.read("ohms"), meter.read("volts")]);
  expect([a, b, c].map((r) => r.ok && r.value)).toEqual([3.7, 100, 3.6]);
  expect(await meter.read("grams")).toEqual({ ok: false, problem: { code: "cannot", quantity: "grams" } });
});

test.each([
  ["1", 1],
  ["-2.5e-3,V", -0.0025],
  [" +7. ", 7],
])("%j is %d", (text, value) => expect(readNumber(text)).toEqual({ ok: true, value }));

test("the made-up meter stands behind the same interface and repeats by its seed", async () => {
  const supply = { chemistry: "lithium-ion" as const, cells: 1, nominalVolts: 3.6, capacityMah: 700 };
  const volts = (seed: number) => new SimulatedMeter(seed, supply, {}).read("volts");
  expect(await volts(3)).toEqual(await volts(3));
  expect(await volts(3)).not.toEqual(await volts(4));
});
