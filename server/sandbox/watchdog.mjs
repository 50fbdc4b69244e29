// A thread beside the one that opens files and mails. That one may be deep in a loop and answer nothing, so this one looks
// at the clock and the memory, and ends the whole process where it goes too far, or where nobody waits for it any more.
import { workerData } from "node:worker_threads";

const { until, memory, parent } = workerData;
const deadline = new Float64Array(until);

setInterval(() => {
  if (process.memoryUsage.rss() > memory) process.kill(process.pid, "SIGKILL");
  const at = deadline[0];
  if (at > 0 && Date.now() > at) process.kill(process.pid, "SIGALRM");
  if (process.ppid !== parent) process.kill(process.pid, "SIGKILL");
}, 25);
