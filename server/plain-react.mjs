/**
 * For the pool's threads: what lays out paper needs the whole of React, which Node's condition "react-server"
 * takes away. Without the condition only "server-only" has to be told that this is the server.
 */
import { register } from "node:module";

const hooks = `export const resolve = (name, context, next) =>
  name === "server-only" ? { url: "data:text/javascript,", shortCircuit: true } : next(name, context);`;
register(`data:text/javascript,${encodeURIComponent(hooks)}`);
