import type { FactIndex, Person } from "../facts/factIndex";
import { hash } from "../text/hash";
import type { Cluster } from "./clusterGuardians";
import { nameKey, sameName } from "./sameName";

/**
 * Finds for every cluster of mentions the guardian whom the house already knows: by address and
 * name, then by a student in common and the name (the address is new), then by a student and the
 * address in common (the name is new). Who is left gets an id made from what is written, so that the same
 * sheet always leads to the same ids.
 */
export function nameGuardians(
  clusters: readonly Cluster[],
  stand: FactIndex,
): Map<Cluster, string> {
  const ids = new Map<Cluster, string>();
  const used = new Set<string>();
  const byAddress = new Map<string, Person[]>();
  for (const person of stand.people.values()) {
    if (person.role !== "guardian") continue;
    for (const address of person.addresses)
      byAddress.set(address, [...(byAddress.get(address) ?? []), person]);
  }
  const tied = (cluster: Cluster): Person[] =>
    [
      ...new Set(
        cluster.flatMap(({ student }) => [...(stand.people.get(student)?.ties.keys() ?? [])]),
      ),
    ]
      .map((id) => stand.people.get(id))
      .filter((person) => person !== undefined);
  const exactly = (person: Person, cluster: Cluster): boolean =>
    cluster.some(({ name }) => nameKey(name) === nameKey(person));
  const nearly = (person: Person, cluster: Cluster): boolean =>
    cluster.some(({ name }) => sameName(name, person));
  const addressesOf = (cluster: Cluster): string[] =>
    cluster.flatMap(({ address }) => (address === undefined ? [] : [address]));
  const passes: ((cluster: Cluster) => Person[])[] = [
    (cluster) =>
      addressesOf(cluster)
        .flatMap((address) => byAddress.get(address) ?? [])
        .filter((person) => exactly(person, cluster)),
    (cluster) => tied(cluster).filter((person) => exactly(person, cluster)),
    (cluster) =>
      addressesOf(cluster)
        .flatMap((address) => byAddress.get(address) ?? [])
        .filter((person) => nearly(person, cluster)),
    (cluster) =>
      tied(cluster).filter((person) =>
        addressesOf(cluster).some((address) => person.addresses.has(address)),
      ),
  ];
  for (const pass of stand.people.size === 0 ? [] : passes) {
    for (const cluster of clusters) {
      if (ids.has(cluster)) continue;
      const found = pass(cluster).find((person) => !used.has(person.id));
      if (found === undefined) continue;
      ids.set(cluster, found.id);
      used.add(found.id);
    }
  }
  for (const cluster of clusters) {
    if (ids.has(cluster)) continue;
    const first = cluster[0];
    const address = addressesOf(cluster)[0];
    const evidence =
      address !== undefined
        ? `address ${address}`
        : `students ${[...new Set(cluster.map(({ student }) => student))].sort().join(" ")}`;
    const base = `g-${hash(`${evidence} ${nameKey(first?.name ?? { given: "", family: "" })}`)}`;
    let id = base;
    for (let turn = 2; used.has(id) || stand.people.has(id); turn++) id = `${base}-${turn}`;
    ids.set(cluster, id);
    used.add(id);
  }
  return ids;
}
