import { describe, expect, test } from "vitest";
import { answerTo } from "./answerTo";

const POST = {
  id: "p1",
  subject: "Rehearsal",
  from: "Halim <Brandt>",
  fromAddress: "halim@oakmail.example",
  lists: [{ id: "l1", title: "Wire Walk, guardians" }],
  text: "Is it on Friday?\r\n<script>alert(1)</script>\n",
};

describe("an answer", () => {
  test("goes to the writer alone, with what was written quoted and harmless", () => {
    const { to, subject, html, answers } = answerTo(POST, false, "juno@copperwheel.example");
    expect([to, subject, answers]).toEqual([
      [{ kind: "address", id: "halim@oakmail.example", name: "Halim <Brandt>" }],
      "Re: Rehearsal",
      "p1",
    ]);
    expect(html).toBe(
      "<p></p><p>Halim &lt;Brandt&gt; wrote:</p><blockquote><p>Is it on Friday?<br>&lt;script&gt;alert(1)&lt;/script&gt;</p></blockquote>",
    );
  });

  test("to all goes to the lists as well; an answer to an answer is called so once", () =>
    expect(
      answerTo({ ...POST, subject: "re: Rehearsal" }, true, "juno@copperwheel.example"),
    ).toMatchObject({
      subject: "re: Rehearsal",
      to: [{ kind: "address" }, { kind: "list", id: "l1", name: "Wire Walk, guardians" }],
    }));

  test("to one's own post goes to its lists, not to oneself", () =>
    expect(answerTo(POST, true, POST.fromAddress).to).toEqual([
      { kind: "list", id: "l1", name: "Wire Walk, guardians" },
    ]));
});
