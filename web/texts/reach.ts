import reach from "@amigo/language/en/web/reach.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ reach }, plain);
