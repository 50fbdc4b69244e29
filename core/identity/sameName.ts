import { fold } from "../text/fold";
import { isOneSlip } from "../text/slip";

/** A name for comparison: folded, its words in alphabetical order, so that "Quist, Bram" meets "Bram Quist". */
export function nameKey(name: { given: string; family: string }): string {
  return fold(`${name.given} ${name.family}`).split(" ").sort().join(" ");
}

/**
 * Whether two written names can be one person's: equal but for case, marks and order; one of them
 * empty; initials for first names; a `?` where a letter was lost; one slip of typing in a long name.
 */
export function sameName(
  a: { given: string; family: string },
  b: { given: string; family: string },
): boolean {
  const left = nameKey(a);
  const right = nameKey(b);
  if (left === right || left === "" || right === "") return true;
  if (initialsAgree(a, b) || initialsAgree(b, a)) return true;
  if (lostLettersAgree(a, b) || lostLettersAgree(b, a)) return true;
  return Math.min(left.length, right.length) >= 8 && isOneSlip(left, right);
}

function initialsAgree(
  short: { given: string; family: string },
  long: { given: string; family: string },
): boolean {
  const initial = fold(short.given);
  return (
    initial.length === 1 &&
    fold(long.given).startsWith(initial) &&
    fold(short.family) === fold(long.family)
  );
}

function lostLettersAgree(
  damaged: { given: string; family: string },
  whole: { given: string; family: string },
): boolean {
  const text = `${damaged.given} ${damaged.family}`;
  if (!text.includes("?")) return false;
  const pattern = text
    .split("?")
    .map((part) => fold(part).replace(/\s+/g, " "))
    .join("\u0000");
  const source = pattern.replace(/[.*+^${}()|[\]\\]/g, "\\$&").replace(/\u0000/g, ".{1,2}");
  const full = fold(`${whole.given} ${whole.family}`);
  return new RegExp(`^${source}$`, "u").test(full);
}

/**
 * Whether two names that stand with one number are probably two people: neither one name nor one given name in two forms.
 * A surname can change; brothers and sisters share it.
 */
export function likelyOther(
  a: { given: string; family: string },
  b: { given: string; family: string },
): boolean {
  if (sameName(a, b)) return false;
  const [one, other] = [fold(a.given), fold(b.given)];
  if (one === "" || other === "") return fold(a.family) !== fold(b.family);
  return one !== other && !one.startsWith(`${other} `) && !other.startsWith(`${one} `);
}
