import { expect, test } from "vitest";
import { FAULTS, workUnderFaults, type FaultName } from "./testing/faults";

/** Each kind once and two more; `npm run bench -- --faults` takes 60. */
const SHORT: readonly FaultName[] = [...FAULTS, "a process is killed", "the database crashes"];

test("through eight faults under load nothing that was acknowledged is lost, half done or stuck", async () => {
  const { rows, onTheWire } = await workUnderFaults(SHORT);
  for (const { of, acknowledged, lost, doubled, stuck } of rows) {
    expect(acknowledged, of).toBeGreaterThan(0);
    expect({ lost, stuck }, of).toEqual({ lost: 0, stuck: 0 });
    // What the relay took and nobody could write down any more is sent again (RFC 5321, section 4.1.1.4).
    expect(doubled, of).toBeLessThanOrEqual(of.startsWith("copies") ? onTheWire : 0);
  }
}, 600_000);
