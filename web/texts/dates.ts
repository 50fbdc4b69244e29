import dates from "@amigo/language/en/web/dates.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ dates }, plain);
