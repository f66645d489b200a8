import { act } from "@testing-library/react";

import { deedQueue } from "@/browser/deed-queue";
import type { Reply } from "@/contract/refusals";

/** A made-up server behind a page: what it was asked, and answers that a test gives one by one. */

export type Asked = { deed: string; input: Record<string, unknown>; requestId: string };

export class MadeUpServer {
  readonly asked: Asked[] = [];
  /** every body as it was sent, also what is no deed */
  readonly sent: Record<string, unknown>[] = [];
  private readonly waiting: ((answer: { json: unknown } | "no line") => void)[] = [];

  constructor() {
    (globalThis as { fetch: unknown }).fetch = async (url: string, init: { body: string }) => {
      const body = JSON.parse(init.body) as Omit<Asked, "deed">;
      const { requestId, input } = body;
      this.sent.push(body);
      this.asked.push({ deed: url.split("/").at(-1)!, input, requestId });
      const answer = await new Promise<{ json: unknown } | "no line">((resolve) =>
        this.waiting.push(resolve),
      );
      if (answer === "no line") throw new TypeError("no line");
      return {
        ok: true,
        status: 200,
        json: async () => answer.json,
        headers: new Map([["content-type", "application/json"]]),
      };
    };
    deedQueue.begin({ id: "00000000-0000-4000-8000-000000000001", name: "bram" }, false);
  }

  /** Answers the oldest question that has no answer yet. */
  answer = (reply: Reply): Promise<void> => this.give({ json: reply });
  noLine = (): Promise<void> => this.give("no line");

  private async give(answer: { json: unknown } | "no line"): Promise<void> {
    await act(async () => {
      this.waiting.shift()!(answer);
      await new Promise((resolve) => setTimeout(resolve));
    });
  }
}
