import { faultForOutsiders } from "@amigo/core/address/faultSentence";
import { readAddress } from "@amigo/core/address/readAddress";
import { say } from "@amigo/language/say";
import type { Context } from "../context";
import type { FileRequest } from "../http/handler";
import { readForm } from "../http/readForm";
import { formAtHand } from "./formAtHand";
import { withinRate } from "./withinRate";

/** Returns what is wrong with an address that is being typed into a form, and what was probably meant. */
export async function checkAddress(
  context: Context,
  http: FileRequest<"/f/:slug/check">,
): Promise<Response> {
  const { form, known } = await formAtHand(context, http.req.param("slug"));
  if (form === undefined || !(await withinRate(context, http)))
    return http.json({ sentence: "", proposal: "" });
  const body = await readForm(http);
  const read = readAddress((body.address ?? "").slice(0, 400), known);
  return http.json(
    read.answer === "clean"
      ? { sentence: "", proposal: "" }
      : {
          // How often a domain is used here is nobody's business outside.
          sentence: say(faultForOutsiders(read)),
          proposal: read.answer === "probably" ? read.address : "",
        },
  );
}
