import "server-only";

import { accountPdf } from "./account";
import { certificatePdf } from "./certificate";
import { labelsPdf } from "./labels";
import { recallLetters } from "./letters";
import { trayMatPdf } from "./tray-mat";

/** What a thread of the server's pool prints: plain data in, a PDF out. */
export const PAPERS = {
  printCertificate: (i: Parameters<typeof certificatePdf>) => certificatePdf(...i),
  printAccount: (i: Parameters<typeof accountPdf>) => accountPdf(...i),
  printLetters: (i: Parameters<typeof recallLetters>) => recallLetters(...i),
  printLabels: (i: Parameters<typeof labelsPdf>) => labelsPdf(...i),
  printMat: (i: Parameters<typeof trayMatPdf>) => trayMatPdf(...i),
};
