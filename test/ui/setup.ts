import { webcrypto } from "node:crypto";
import { TextDecoder, TextEncoder } from "node:util";

/** What a browser has and the made-up page of the component tests lacks. */
Object.assign(globalThis, { TextDecoder, TextEncoder });
Object.defineProperty(globalThis, "crypto", { value: webcrypto, configurable: true });

const router = { push: jest.fn(), refresh: jest.fn(), replace: jest.fn(), prefetch: jest.fn() };
jest.mock("next/navigation", () => ({
  useRouter: () => router,
  usePathname: () => "/",
  useSearchParams: () => new URLSearchParams(),
}));
