import lists from "@amigo/language/en/web/lists.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ lists }, plain);
