import { type ChildProcess, fork } from "node:child_process";

/** A server of our own on the same database, to be ended and begun anew. */
export async function ownServer(port: number, env: Record<string, string> = {}): Promise<ChildProcess> {
  const server = fork("server/main.mjs", {
    env: {
      ...process.env,
      NODE_ENV: "production",
      DATABASE_URL: process.env.E2E_DATABASE_URL,
      HOST: "127.0.0.1",
      PORT: String(port),
      PUBLIC_URL: "",
      SESSION_SECRET: "only-for-a-restart-".repeat(3),
      LOG_LEVEL: "error",
      ...env,
    },
    stdio: ["ignore", "ignore", "inherit", "ipc"],
  });
  await new Promise<void>((resolve, reject) => {
    server.once("message", () => resolve());
    server.once("exit", (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return server;
}
export const ended = (server: ChildProcess) =>
  new Promise<void>((resolve) => {
    server.once("exit", () => resolve());
    server.kill("SIGKILL"); // a crash, not a farewell
  });
