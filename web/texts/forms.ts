import forms from "@amigo/language/en/web/forms.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ forms }, plain);
