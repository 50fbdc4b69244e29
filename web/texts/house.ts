import house from "@amigo/language/en/web/house.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ house }, plain);
