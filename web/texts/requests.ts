import requests from "@amigo/language/en/web/requests.json";
import { plain } from "@amigo/language/say";
import { textsFor } from "./textsFor";

export const { t, Rich } = textsFor({ requests }, plain);
