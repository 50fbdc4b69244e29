import type { Meaning } from "./meaning";

export const guardianAddress: Meaning = {
  id: "guardian.address",
  label: "Guardian",
  part: "address",
  slotted: true,
  titles: [
    [
      /^(parent|carer|guardian|mother|father|contact|parent carer|parent guardian|family|home|your|mum|dad)s?( \d)?( s)? (e ?mail|mail)s?( address(es)?)?( \d)?$/,
      1,
    ],
    [/^(e ?mail|e mail address|email address|emails)( \d)?$/, 0.85],
    [/\b(e ?mail)\b/, 0.7],
    [/^address(es)?$/, 0.4],
  ],
  cells: ({ address, filled, repeated }) =>
    filled === 0 ? 0.4 : repeated ? address * 0.3 : address,
  known: ({ address, filled, repeated }) =>
    filled > 0 && !repeated && address > 0.6 ? address * 0.7 : 0,
};
