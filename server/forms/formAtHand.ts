import type { KnownDomains } from "@amigo/core/address/learnDomains";
import type { FormChoices } from "@amigo/core/forms/readAnswer";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { type LoadedForm, choicesOf, findFormBySlug } from "./queries";
import { knownDomains } from "../membership/addressQueries";

/** How long what stands around a form is good for, in milliseconds. */
const REMEMBERED = 3000;

interface AtHand {
  at: number;
  form: LoadedForm | undefined;
  choices: FormChoices;
  known: KnownDomains;
}

const kept = new WeakMap<Context, Map<string, Promise<AtHand>>>();

/** Returns the forms that a process has looked at lately, until something about forms or lists changes. */
function formsAtHand(context: Context): Map<string, Promise<AtHand>> {
  const known = kept.get(context);
  if (known !== undefined) return known;
  const forms = new Map<string, Promise<AtHand>>();
  kept.set(context, forms);
  context.events.on((topic) => {
    if (topic === "forms" || topic === "board") forms.clear();
  });
  return forms;
}

/** Returns a form with what it needs, loaded once every few seconds however many fill it in. */
export async function formAtHand(context: Context, slug: string): Promise<AtHand> {
  const forms = formsAtHand(context);
  const known = await forms.get(slug)?.catch(() => undefined);
  if (known !== undefined && Date.now() - known.at < REMEMBERED) return known;
  const loaded = loadForm(context.db, slug);
  if (forms.size > 200) forms.clear();
  forms.set(slug, loaded);
  return loaded;
}

async function loadForm(db: Database, slug: string): Promise<AtHand> {
  const form = await findFormBySlug(db, slug);
  return form === undefined
    ? { at: Date.now(), form, choices: { classes: [], teams: [] }, known: new Map() }
    : {
        at: Date.now(),
        form,
        choices: await choicesOf(db, form),
        known: await knownDomains(db, form.seasonId),
      };
}
