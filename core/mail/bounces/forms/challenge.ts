import type { BounceForm } from "../form";

const ASKS =
  /(confirm|verify|prove) (that )?(you|your|this|the) .{0,60}(human|person|sender|message|mail|address)|click .{0,60}(to|and) .{0,30}(deliver|release|confirm)|sender verification|bestätigen sie .{0,60}(absender|nachricht)/i;

/** A filter that asks the sender to prove to be a person before it delivers. The address works. */
export const challenge: BounceForm = {
  id: "challenge",
  read: ({ report, subject, text }) =>
    report === "" && ASKS.test(`${subject}\n${text.slice(0, 3000)}`)
      ? { sort: "not a bounce", words: subject }
      : undefined,
};
