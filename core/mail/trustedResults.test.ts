import { describe, expect, test } from "vitest";
import { splitMessage } from "./splitMessage";
import { trustedResults } from "./trustedResults";

const read = (header: string, name = "mx.copperwheel.example") =>
  trustedResults(splitMessage(new TextEncoder().encode(`${header}\r\n\r\n`)), name);
const AR = "Authentication-Results: mx.copperwheel.example";

describe("what the mail server in front found out", () => {
  test("is read from its field, without comments and whatever the letters' case", () => {
    expect(
      read(
        `${AR} 1;\r\n\tdkim=pass (2048-bit; (nested) "; spf=fail \\) x) header.d=lettr.example;\r\n\tSPF=Pass (sender; spf=fail) smtp.mailfrom=una@Lettr.Example;\r\n\tdmarc=pass (p=REJECT) header.from=lettr.example`,
      ),
    ).toEqual({ spf: "pass", spfDomain: "lettr.example", dmarc: "pass" });
    expect(read(`${AR}; spf=pass smtp.mailfrom="una@lettr.example"`)?.spfDomain).toBe(
      "lettr.example",
    );
    expect(read(`${AR}; none`)).toEqual({ spf: "", spfDomain: "", dmarc: "" });
  });
  test("may stand right below its trace field, and no further down", () => {
    expect(read(`Received: by mx\r\n${AR}; spf=pass smtp.mailfrom=a@b.example`)?.spf).toBe("pass");
    expect(
      read(`Received: by mx\r\nReceived: by other\r\n${AR}; spf=pass smtp.mailfrom=a@b.example`),
    ).toBeUndefined();
  });
  test("is the first of its name; others' names don't count", () => {
    expect(read(`${AR}; spf=fail\r\n${AR}; spf=pass`)?.spf).toBe("fail");
    expect(read(`${AR}.evil.example; spf=pass\r\nSubject: x`)).toBeUndefined();
    expect(read(`Authentication-Results: evil.example (${AR}; spf=pass)`)).toBeUndefined();
    expect(read(`${AR}; spf=pass`, "")).toBeUndefined();
  });

  test("says for which domain SPF speaks, the greeting's where there is no sender", () => {
    expect(read(`${AR}; spf=pass smtp.helo=mx.lettr.example`)?.spfDomain).toBe("mx.lettr.example");
    expect(
      read(`${AR}; spf=pass smtp.helo=mx.lettr.example smtp.mailfrom=una@oakmail.example`)
        ?.spfDomain,
    ).toBe("oakmail.example");
    expect(read(`${AR}; dmarc=pass smtp.mailfrom=una@lettr.example; spf=none`)).toEqual({
      spf: "none",
      spfDomain: "",
      dmarc: "pass",
    });
  });

  test("is taken as it is within quotes, where nothing is a comment or ends a part", () => {
    expect(
      read(`${AR}; spf=pass reason="a ( b; dmarc=pass" smtp.mailfrom=u@lettr.example`),
    ).toEqual({
      spf: "pass",
      spfDomain: "lettr.example",
      dmarc: "",
    });
    expect(read(`${AR}; spf=pass reason="a \\" b" smtp.mailfrom=u@lettr.example`)?.spfDomain).toBe(
      "lettr.example",
    );
    expect(read(`${AR}; spf=pass smtp.mailfrom="u\\x@lettr.example"`)?.spfDomain).toBe(
      "lettr.example",
    );
    expect(read(`${AR}; (a ) b) spf=pass`)?.spf).toBe("");
    expect(read(`${AR}; (a \\) spf=fail) spf=pass`)?.spf).toBe("pass");
    expect(read(`${AR}; spf=pass \\ smtp.mailfrom=u@lettr.example`)?.spfDomain).toBe(
      "lettr.example",
    );
  });

  test("counts only from a field of that name", () => {
    expect(read(`X-Results: mx.copperwheel.example; spf=pass`)).toBeUndefined();
    expect(read("Authentication-Results:")).toBeUndefined();
    expect(read("Authentication-Results: ; spf=pass", "")).toBeUndefined();
  });
});
