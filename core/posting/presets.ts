/** Who may write to a list. */
export type MayWrite = "leads and helpers";

/** What happens to mail of anybody else. */
export type OtherMail = "returned";

/** The posting rules of a list. */
export interface PostingRules {
  mayWrite: MayWrite;
  otherMail: OtherMail;
  membersSeeEachOther: boolean;
}

export type PresetId = "announcement-only";

/** Named sets of posting rules. */
export const PRESETS: Record<PresetId, { name: string; rules: PostingRules }> = {
  "announcement-only": {
    name: "Announcement-only",
    rules: { mayWrite: "leads and helpers", otherMail: "returned", membersSeeEachOther: false },
  },
};
