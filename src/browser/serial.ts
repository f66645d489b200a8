import type { LinePort } from "@/core/instrument/scpi";

/**
 * A serial line of the browser (Web Serial) as lines of text. Needs a secure address and a browser that has
 * it.
 */

type Port = {
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  readable: ReadableStream<Uint8Array> | null;
  writable: WritableStream<Uint8Array> | null;
};
type SerialNavigator = Navigator & { serial?: { requestPort(): Promise<Port> } };

const LONGEST_LINE = 4096; // what never ends its line is no instrument; its last characters are kept

export type SerialProblem = "insecure" | "unsupported" | "refused";
export const serialBarred = (): SerialProblem | null => {
  if (!window.isSecureContext) return "insecure";
  if ((navigator as SerialNavigator).serial) return null;
  return "unsupported";
};

export class SerialLine implements LinePort {
  lost = false;
  private readonly lines: string[] = [];
  private waiting: (() => void) | null = null;
  private rest = "";

  private constructor(private readonly port: Port) {
    void this.pump();
  }

  static async open(baudRate: number): Promise<SerialLine | SerialProblem> {
    const barred = serialBarred();
    if (barred) return barred;
    try {
      const port = await (navigator as SerialNavigator).serial!.requestPort();
      await port.open({ baudRate });
      return new SerialLine(port);
    } catch {
      return "refused";
    }
  }

  async write(text: string): Promise<void> {
    const writer = this.port.writable?.getWriter();
    if (!writer) {
      this.lost = true;
      return;
    }
    try {
      await writer.write(new TextEncoder().encode(text));
    } catch {
      this.lost = true;
    } finally {
      writer.releaseLock();
    }
  }

  async readLine(withinMs: number): Promise<string | null> {
    if (this.lines.length === 0 && withinMs > 0 && !this.lost)
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, withinMs);
        this.waiting = () => {
          clearTimeout(timer);
          resolve();
        };
      });
    return this.lines.shift() ?? null;
  }

  private async pump(): Promise<void> {
    const reader = this.port.readable?.getReader();
    const decoder = new TextDecoder();
    try {
      for (;;) {
        const { value, done } = (await reader?.read()) ?? { value: undefined, done: true };
        if (done) break;
        this.rest += decoder.decode(value, { stream: true });
        const parts = this.rest.split(/\r\n|\n|\r/);
        this.rest = parts.pop()!.slice(-LONGEST_LINE);
        this.lines.push(...parts.filter((p) => p !== ""));
        if (this.lines.length) this.wake();
      }
    } catch {
      // the plug was pulled
    }
    this.lost = true;
    this.wake();
  }

  private wake(): void {
    this.waiting?.();
    this.waiting = null;
  }
}
