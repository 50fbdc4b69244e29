import { filledVersions } from "@amigo/core/mail/merge";
import { inTurnFor, type Version } from "@amigo/core/mail/versions";
import type { Database } from "../db/connect";
import type { MergeParts } from "../db/schema/posts";
import { fillRaw } from "../posting/fillRaw";
import { languageOf } from "../texts/familyLanguage";
import { openMessage, type StoredMessage } from "./prepareCopy";
import type { Claimed } from "./queueQueries";

/** How many messages are kept in memory with one of their languages first: those of few posts go out at a time. */
const MOST_ARRANGED = 20;

/** Puts the texts of copies in place that aren't the same for all: fields that are filled in, languages by their reader's. */
export class CopyTexts {
  /** Messages with one of their languages first. */
  private readonly arranged = new Map<string, Promise<StoredMessage>>();

  constructor(private readonly db: Database) {}

  /**
   * Returns a message with its fields filled in for one recipient and their language first; the same message where it has
   * neither. Copies that differ by their language alone share one.
   */
  async filledFor(
    stored: StoredMessage & { merge: MergeParts | null },
    { address, fields }: Claimed,
    house: () => Promise<{ languageParts: boolean }>,
  ): Promise<StoredMessage> {
    const { merge, id } = stored;
    if (merge === null || (fields === null && merge.versions === undefined)) return stored;
    if (merge.versions === undefined)
      return fill(stored, id, filledVersions([{ language: "", ...merge }], fields ?? {}));
    const [language, { languageParts }] = await Promise.all([
      languageOf(this.db, address),
      house(),
    ]);
    const versions = inTurnFor(merge.versions, language);
    if (fields !== null) return fill(stored, id, filledVersions(versions, fields), languageParts);
    const key = `${id} ${versions[0]?.language} ${languageParts ? "parts" : ""}`;
    const known =
      this.arranged.get(key) ?? fill(stored, key, filledVersions(versions, {}), languageParts);
    if (this.arranged.size >= MOST_ARRANGED) this.arranged.clear();
    this.arranged.set(key, known);
    known.catch(() => this.arranged.delete(key));
    return known;
  }
}

/** Returns a message with other texts in place of its own. */
async function fill(
  { raw }: StoredMessage,
  id: string,
  versions: readonly Version[],
  asParts = false,
): Promise<StoredMessage> {
  return openMessage({ id, arc: null, raw: await fillRaw(raw, versions, asParts) });
}
