import { FAULTS, workUnderFaults } from "@amigo/server/testing/faults";

/** Lets faults of all kinds happen at random under load, and says what was lost, doubled or stuck. */
export async function measureFaults(many: number): Promise<void> {
  const faults = Array.from(
    { length: many },
    () => FAULTS[Math.floor(Math.random() * FAULTS.length)] ?? FAULTS[0],
  );
  const {
    rows,
    faults: happened,
    onTheWire,
  } = await workUnderFaults(faults, (line) => console.log(line));
  console.log(
    `\n${many} faults: ${Object.entries(happened)
      .map(([name, times]) => `${name} ${times}×`)
      .join(", ")}\n`,
  );
  console.log(
    `${"".padEnd(32)}${"acknowledged".padStart(14)}${"lost".padStart(8)}${"doubled".padStart(9)}${"stuck".padStart(7)}`,
  );
  for (const { of, acknowledged, lost, doubled, stuck } of rows)
    console.log(
      `${of.padEnd(32)}${String(acknowledged).padStart(14)}${String(lost).padStart(8)}${String(doubled).padStart(9)}${String(stuck).padStart(7)}`,
    );
  console.log(
    `\nAt most ${onTheWire} copies can have been taken by the relay without being written down.`,
  );
}
