/** Somebody who wants to come, with how many people, and whether they have a place so far. */
export interface Comer {
  id: number;
  people: number;
  hasPlace: boolean;
}

/**
 * Returns who has a place where a date has only so many. Whoever has a place keeps it, even where the places have become fewer;
 * those who wait get the free ones in the order in which they said that they come. A group that is larger than what is free
 * waits on, and a smaller one behind it goes ahead, so that no place stays empty.
 *
 * @param comers all who said yes, those who said it first before the others
 * @param places how many people can come; null for any number
 * @returns the ids of those who have a place
 */
export function giveSeats(comers: readonly Comer[], places: number | null): Set<number> {
  if (places === null) return new Set(comers.map(({ id }) => id));
  const seated = comers.filter(({ hasPlace }) => hasPlace);
  const given = new Set(seated.map(({ id }) => id));
  let free = places - seated.reduce((sum, { people }) => sum + people, 0);
  for (const { id, people, hasPlace } of comers)
    if (!hasPlace && people <= free) {
      given.add(id);
      free -= people;
    }
  return given;
}
