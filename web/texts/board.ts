import board from "@amigo/language/en/web/board.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ board }, plain);
