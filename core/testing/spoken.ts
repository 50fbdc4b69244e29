import { said, type Said } from "@amigo/language/say";

/** Returns the same function, with the words of every message in what it returns. */
export function spoken<Given extends unknown[], Returned>(
  make: (...given: Given) => Returned,
): (...given: Given) => Said<Returned> {
  return (...given) => said(make(...given));
}
