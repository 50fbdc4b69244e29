import people from "@amigo/language/en/web/people.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ people }, plain);
