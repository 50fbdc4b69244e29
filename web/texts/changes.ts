import changes from "@amigo/language/en/web/changes.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ changes }, plain);
