import mail from "@amigo/language/en/web/mail.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ mail }, plain);
