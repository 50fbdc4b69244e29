import { describe, expect, test } from "vitest";
import type { Audience } from "./audience";
import { formatAudience } from "./formatAudience";
import { parseAudience } from "./parseAudience";

describe("audience texts", () => {
  const texts: [string, Audience][] = [
    ["students in this class", { who: "students", kind: "class", cohort: undefined }],
    ["guardians of students in this team", { who: "guardians", kind: "team", cohort: undefined }],
    ["guardians of students in \"Trapeze Two\"", { who: "guardians", kind: "class", cohort: "Trapeze Two" }],
    ["students in team \"Night Parade\"", { who: "students", kind: "team", cohort: "Night Parade" }],
  ];
  test.each(texts)("%s is understood, and written again the same way", (text, audience) => {
    expect(parseAudience(text)).toEqual({ ok: true, audience });
    expect(formatAudience(audience)).toBe(text);
    expect(parseAudience(text.toUpperCase().replace(/"(.*)"/, (quoted) => text.match(/".*"/)?.[0] ?? quoted))).toEqual({ ok: true, audience });
  });

  test.each([
    ["guardian of students in this class", 0, "guardians"],
    ["guardians of student in this class", 13, "students"],
    ["students at this class", 9, undefined],
    ["students in this clas", 17, "class"],
    ["students in Trapeze", 12, "\"Trapeze\""],
    ["students in", 11, undefined],
    ["students in this class and more", 23, undefined],
    ["", 0, "students"],
  ])("%j is refused at %i", (text, at, proposal) => {
    const parsed = parseAudience(text);
    expect(parsed).toMatchObject({ ok: false, fault: { at, sentence: expect.stringMatching(/\.$/) } });
    if (!parsed.ok) expect(parsed.fault.proposal).toBe(proposal);
  });
});
