import { connectedPads, PadReader } from "./gamepad";
import { SerialLine } from "./serial";

/** Devices of the browser against fakes: a controller that is pulled and comes back, a meter on a torn line. */

type FakePad = {
  index: number;
  id: string;
  connected: boolean;
  axes: number[];
  buttons: { value: number }[];
  timestamp: number;
};
let pads: (FakePad | null)[] = [];
const pad = (index: number, more: Partial<FakePad> = {}): FakePad => ({
  index,
  id: "Bench pad",
  connected: true,
  axes: [0, 0],
  buttons: [{ value: 0 }],
  timestamp: 0,
  ...more,
});

describe("a controller", () => {
  let now = 1000;
  beforeEach(() => {
    jest.useFakeTimers();
    now = 1000;
    jest.spyOn(performance, "now").mockImplementation(() => now);
    Object.assign(navigator, { getGamepads: () => pads });
  });
  afterEach(() => {
    jest.useRealTimers();
    jest.restoreAllMocks();
  });
  const pass = (ms: number) => {
    for (let t = 0; t < ms; t += 4) {
      now += 4;
      jest.advanceTimersByTime(4);
    }
  };
  const read = () => {
    const gone: boolean[] = [];
    const reader = new PadReader(connectedPads()[0]!, (g) => gone.push(g));
    const rows = () => {
      const flat = [...reader.take()];
      return Array.from({ length: flat.length / 4 }, (_, i) => flat.slice(i * 4, i * 4 + 4));
    };
    return { reader, gone, rows };
  };

  test("a new reading carries the browser's own time; standing still is noted now and then, never as a flood", () => {
    pads = [pad(0)];
    const { reader, rows } = read();
    pass(40);
    pads = [pad(0, { axes: [0.5, 0], timestamp: now - 2 })];
    pass(4);
    const all = rows();
    expect(all.at(-1)).toEqual([now - 6, 0.5, 0, 0]);
    expect(all.length).toBeLessThanOrEqual(4);
    expect(all.map(([t]) => t)).toEqual([...all.map(([t]) => t!)].sort((a, b) => a - b));
    reader.stop();
  });

  test("a time from the future or long ago is not believed", () => {
    pads = [pad(0)];
    const { reader, rows } = read();
    pass(8);
    pads = [pad(0, { axes: [1, 0], timestamp: now + 5000 })];
    pass(4);
    expect(rows().at(-1)![0]).toBe(now);
    reader.stop();
  });

  test("pulled and plugged into another slot it is the same one; a second one that was there is never taken for it", () => {
    pads = [pad(0), pad(1, { axes: [0.9, 0.9] })];
    const { reader, gone, rows } = read();
    pass(8);
    rows();
    pads = [null, pads[1]!];
    pass(40);
    expect([gone, rows()]).toEqual([[true], []]);
    pads = [null, pads[1]!, pad(2, { axes: [0.1, 0], timestamp: 5 })];
    pass(8);
    expect(gone).toEqual([true, false]);
    expect(rows()[0]!.slice(1)).toEqual([0.1, 0, 0]);
    reader.stop();
  });

  test("a button beyond its range is held within it", () => {
    pads = [pad(0, { buttons: [{ value: 1.4 }] })];
    const { reader, rows } = read();
    pass(4);
    expect(rows()[0]![3]).toBe(1);
    reader.stop();
  });
});

describe("a meter on a serial line", () => {
  type Feed = { push: (text: string) => void; tear: () => void };
  const opened = async (): Promise<{ line: SerialLine; feed: Feed; sent: string[] }> => {
    let give: (r: { value?: Uint8Array; done: boolean }) => void = () => {};
    let fail: (e: Error) => void = () => {};
    const sent: string[] = [];
    const port = {
      open: async () => {},
      close: async () => {},
      readable: { getReader: () => ({ read: () => new Promise((a, b) => ((give = a), (fail = b))) }) },
      writable: {
        getWriter: () => ({
          write: async (b: Uint8Array) => void sent.push(new TextDecoder().decode(b)),
          releaseLock: () => {},
        }),
      },
    };
    Object.assign(window, { isSecureContext: true });
    Object.assign(navigator, { serial: { requestPort: async () => port } });
    const line = (await SerialLine.open(9600)) as SerialLine;
    return {
      line,
      sent,
      feed: {
        push: (text) => give({ value: new TextEncoder().encode(text), done: false }),
        tear: () => fail(new Error("gone")),
      },
    };
  };
  const settle = () => new Promise((resolve) => setTimeout(resolve));

  test("a line is a line however it arrives", async () => {
    const { line, feed, sent } = await opened();
    await line.write("MEAS?\n");
    feed.push("+4.9");
    await settle();
    expect(await line.readLine(0)).toBeNull();
    feed.push("80E+3\r\nnext\r");
    await settle();
    expect([await line.readLine(0), await line.readLine(0), await line.readLine(0)]).toEqual([
      "+4.980E+3",
      "next",
      null,
    ]);
    expect(sent).toEqual(["MEAS?\n"]);
  });

  test("who waits is answered when the line comes, and told when the plug is pulled", async () => {
    const { line, feed } = await opened();
    const waited = line.readLine(60_000);
    feed.push("1\n");
    expect(await waited).toBe("1");
    await settle();
    const again = line.readLine(60_000);
    feed.tear();
    expect([await again, line.lost]).toEqual([null, true]);
  });

  test("what never ends its line is kept short", async () => {
    const { line, feed } = await opened();
    feed.push("x".repeat(100_000));
    await settle();
    feed.push("\n");
    await settle();
    expect((await line.readLine(0))!.length).toBeLessThanOrEqual(4096);
  });

  test("a page that may not, or a browser that cannot, says which", async () => {
    Object.assign(navigator, { serial: undefined });
    expect(await SerialLine.open(9600)).toBe("unsupported");
    Object.assign(window, { isSecureContext: false });
    expect(await SerialLine.open(9600)).toBe("insecure");
    Object.assign(window, { isSecureContext: true });
    const refuse = async () => Promise.reject(new Error("no"));
    Object.assign(navigator, { serial: { requestPort: refuse } });
    expect(await SerialLine.open(9600)).toBe("refused");
  });
});
