import type { DNSResolver } from "mailauth";

/** What a task may use beside what it is asked. */
export interface Surroundings {
  /** Asks the DNS through the process that runs the sandbox, and only so often for one task. */
  resolve: DNSResolver;
}
