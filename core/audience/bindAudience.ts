import type { Audience, SpotKind } from "./audience";

/** What "this class" stands for in one list of a recipe. */
export interface This {
  kind: SpotKind;
  name: string;
}

/** Puts a class, team, committee, site or level in the place of "this"; what has no such place stays as it is. */
export function bindAudience(audience: Audience, to: This | undefined): Audience {
  if (to === undefined) return audience;
  switch (audience.op) {
    case "person":
      return audience;
    case "guardians":
      return { ...audience, of: bindAudience(audience.of, to) };
    case "group":
      return audience.spots.some(({ name, kind }) => name === undefined && kind !== "season")
        ? {
            ...audience,
            spots: audience.spots.map((spot) =>
              spot.name === undefined && spot.kind !== "season" ? { at: spot.at, ...to } : spot,
            ),
          }
        : audience;
    default:
      return {
        ...audience,
        left: bindAudience(audience.left, to),
        right: bindAudience(audience.right, to),
      };
  }
}
