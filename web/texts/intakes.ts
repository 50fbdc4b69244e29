import intakes from "@amigo/language/en/web/intakes.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ intakes }, plain);
