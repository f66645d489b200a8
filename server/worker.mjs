/** A thread of the server's pool: does one heavy task at a time (src/platform/work/tasks.ts). */
import { TASKS } from "../src/platform/work/tasks.ts";

export default ({ name, input }) => TASKS[name](input);
