import list from "@amigo/language/en/web/list.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ list }, plain);
