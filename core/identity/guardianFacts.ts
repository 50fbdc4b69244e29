import type { Fact } from "../facts/fact";
import type { Origin } from "../facts/origin";
import type { FactIndex } from "../facts/factIndex";
import type { MeaningId } from "../sheet/meanings/meaning";
import { wholeName, type PersonName } from "../sheet/splitName";
import type { Cluster, Mention } from "./clusterGuardians";
import type { StandingAddresses } from "./standingAddresses";
import { originIn } from "./originIn";
import { rowOfMention } from "./rowOfMention";

export function guardianFacts(
  subject: string,
  cluster: Cluster,
  { holds }: StandingAddresses,
  known: FactIndex,
): Fact[] {
  const first = cluster[0];
  if (first === undefined) return [];
  const at = (mention: Mention, meaning: MeaningId): Origin =>
    originIn(mention.source, mention.reading, rowOfMention(mention))(meaning, mention.slot);
  const named =
    cluster.find(({ name }) => wholeName(name) !== "" && !wholeName(name).includes("?")) ?? first;
  const facts: Fact[] = [
    { subject, kind: "guardian", ref: "", value: "", origin: at(first, "guardian.name") },
    {
      subject,
      kind: "name",
      ref: "",
      value: fullestName(cluster, known.people.get(subject)),
      origin: at(named, "guardian.name"),
    },
  ];
  for (const mention of holds)
    if (mention.address !== undefined)
      facts.push({
        subject,
        kind: "address",
        ref: mention.address,
        value: "",
        origin: at(mention, "guardian.address"),
      });
  for (const mention of cluster)
    facts.push({
      subject,
      kind: "tie",
      ref: mention.student,
      value: mention.relationship,
      origin: at(mention, "guardian.name"),
    });
  return facts;
}

/** The name as it stood, where it is still written so; else the one written most often, among equals the first. Names with lost letters count last. */
function fullestName(cluster: Cluster, stood: PersonName | undefined): PersonName {
  const kept =
    stood === undefined || wholeName(stood).includes("?")
      ? undefined
      : cluster.find(({ name }) => name.given === stood.given && name.family === stood.family);
  if (kept !== undefined) return kept.name;
  const counts = new Map<string, { name: PersonName; count: number }>();
  for (const { name } of cluster) {
    const text = wholeName(name);
    if (text === "") continue;
    const entry = counts.get(text) ?? { name, count: text.includes("?") ? -1000 : 0 };
    entry.count++;
    counts.set(text, entry);
  }
  return (
    [...counts.values()].sort((a, b) => b.count - a.count)[0]?.name ?? { given: "", family: "" }
  );
}
