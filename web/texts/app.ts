import app from "@amigo/language/en/web/app.json";
import { plainly } from "@amigo/language/texts";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ app }, plainly);
