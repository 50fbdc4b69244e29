import ui from "@amigo/language/en/web/ui.json";
import { plainly } from "@amigo/language/texts";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ ui }, plainly);
