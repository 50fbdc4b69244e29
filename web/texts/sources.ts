import sources from "@amigo/language/en/web/sources.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ sources }, plain);
