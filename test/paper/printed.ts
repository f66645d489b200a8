import { readFileSync } from "node:fs";

import { extractTextItems, getDocumentProxy } from "unpdf";

import { PAPERS } from "@/print/papers";

/** Prints papers as a thread of the server does, then reads them with a reader that shares nothing with it. */

type Asked = { task: keyof typeof PAPERS; input: never };

async function readPaper(bytes: Uint8Array) {
  const pdf = await getDocumentProxy(new Uint8Array(bytes));
  const { items } = await extractTextItems(pdf);
  return Promise.all(
    items.map(async (texts, i) => {
      const { width, height } = (await pdf.getPage(i + 1)).getViewport({ scale: 1 });
      return {
        width,
        height,
        texts: texts
          .filter((t) => t.str.trim())
          .map((t) => ({ text: t.str, x: t.x, y: height - t.y, width: t.width, size: t.fontSize })),
      };
    }),
  );
}

const asked = JSON.parse(readFileSync(0, "utf8")) as Asked[];
const papers = [];
for (const { task, input } of asked) papers.push(await readPaper(await PAPERS[task](input)));
process.stdout.write(JSON.stringify(papers));
