import type { DNSResolver } from "mailauth";
import type { Database } from "./db/connect";

/** A made-up house to try Amigo with. Whoever starts the program gives it; the server itself has none. */
export interface DemoHouse {
  /** Loads it into an empty database; does nothing, and returns false, where a house is set up already. */
  load(db: Database): Promise<boolean>;
  /** Answers for its domains, so that nothing is asked of the network. */
  zone: DNSResolver;
  samples: readonly { name: string; what: string }[];
  /** Returns a sample sheet by its name, or undefined. */
  readSample(name: string): Promise<Uint8Array | undefined>;
}
