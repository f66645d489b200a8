import { say } from "@/words/frame";

/**
 * Label printers behind one interface. A printer takes dots (one PNG a label, eight dots a millimetre) or
 * pages (PDF); the simulated one prints dots onto a roll that is shown, and runs out of labels as a real one
 * does.
 */

export type LabelJob = {
  count: number;
  /** the dots of the label at a place of the job */
  raster: (index: number) => Promise<Blob>;
  pdf: () => Promise<Blob>;
};
export type PrintResult =
  { ok: true; printed: number } | { ok: false; printed: number; why: "no-labels" | "no-answer" };

export interface LabelPrinter {
  readonly name: string;
  print(job: LabelJob): Promise<PrintResult>;
}

/** A printer that does not exist: what it prints comes out as pictures. */
export class SimulatedLabelPrinter implements LabelPrinter {
  readonly name = say("simulatedLabelPrinter");
  constructor(
    private left: number,
    private readonly out: (picture: Blob, left: number) => void,
  ) {}

  newRoll(labels: number): void {
    this.left = labels;
  }

  async print(job: LabelJob): Promise<PrintResult> {
    for (let i = 0; i < job.count; i++) {
      if (this.left <= 0) return { ok: false, printed: i, why: "no-labels" };
      const picture = await job.raster(i).catch(() => null);
      if (!picture) return { ok: false, printed: i, why: "no-answer" };
      this.left--;
      this.out(picture, this.left);
    }
    return { ok: true, printed: job.count };
  }
}

/** Whatever printer the machine knows, through the browser's own dialogue. */
export class SystemPrinter implements LabelPrinter {
  readonly name = say("thisMachinesPrinter");

  async print(job: LabelJob): Promise<PrintResult> {
    const pdf = await job.pdf().catch(() => null);
    if (!pdf) return { ok: false, printed: 0, why: "no-answer" };
    window.open(URL.createObjectURL(pdf), "_blank", "noopener");
    return { ok: true, printed: job.count };
  }
}
