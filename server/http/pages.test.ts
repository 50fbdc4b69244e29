import { readdirSync } from "node:fs";
import { request, type IncomingMessage } from "node:http";
import { brotliDecompressSync, gunzipSync } from "node:zlib";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { JUNO, startTestHouse, type Client, type TestHouse } from "../testing/testHouse";

let house: TestHouse;
let juno: Client;

beforeAll(async () => {
  house = await startTestHouse({ roles: "web" });
  juno = await house.signIn(JUNO);
});
afterAll(() => house.close());

/** What came over the wire, as it came. */
interface Received {
  status: number;
  headers: IncomingMessage["headers"];
  octets: Buffer;
}

const get = (path: string, headers: Record<string, string> = {}): Promise<Received> =>
  new Promise((resolve, reject) => {
    const asked = request(`${house.url}${path}`, { headers }, (answer) => {
      const parts: Buffer[] = [];
      answer.on("data", (part: Buffer) => parts.push(part));
      answer.on("end", () =>
        resolve({
          status: answer.statusCode ?? 0,
          headers: answer.headers,
          octets: Buffer.concat(parts),
        }),
      );
    });
    asked.on("error", reject);
    asked.end();
  });

/** The largest script of the pages. */
const script = (): string => {
  const [file = ""] = readdirSync(new URL("../../web/dist/assets", import.meta.url)).filter(
    (name) => /^react-.*\.js$/.test(name),
  );
  return `/assets/${file}`;
};

describe("a file of the pages", () => {
  test.each([
    ["br", brotliDecompressSync],
    ["gzip", gunzipSync],
  ] as const)("comes compressed by %s to a browser that takes it", async (encoding, open) => {
    const plain = await get(script());
    const small = await get(script(), { "Accept-Encoding": encoding });
    expect(plain.headers["content-encoding"]).toBeUndefined();
    expect(small.headers["content-encoding"]).toBe(encoding);
    expect(small.headers.vary).toMatch(/accept-encoding/i);
    expect(small.octets.length).toBeLessThan(plain.octets.length / 2.5);
    expect(open(small.octets).equals(plain.octets)).toBe(true);
  });

  test("is kept by browsers for a year", async () => {
    expect((await get(script())).headers["cache-control"]).toBe(
      "public, max-age=31536000, immutable",
    );
  });

  test.each([
    "/assets/index-of-another-version.js",
    "/favicon.ico",
    "/assets/",
    "/robots.txt",
    "/assets/..%2f..%2f..%2fpackage.json",
  ])("that isn't there (%s) is 404, and kept by nobody", async (path) => {
    const { status, headers, octets } = await get(path);
    expect(status).toBe(404);
    expect(headers["cache-control"]).toBe("no-store");
    expect(headers["content-type"]).toContain("application/problem+json");
    expect(octets.toString()).toContain("another version");
  });
});

test("an address of a page answers the start page, also one with a dot in its secret", async () => {
  for (const path of ["/", "/lists/17", "/member/abc.def-ghi"]) {
    const { status, headers, octets } = await get(path);
    expect(status).toBe(200);
    expect(headers["content-type"]).toContain("text/html");
    expect(octets.toString()).toContain('<div id="root">');
  }
});

test("answers of the API come compressed, small ones as they are", async () => {
  const asks = { Cookie: juno.cookie, "Accept-Encoding": "gzip" };
  const description = await get("/api/openapi.json", asks);
  expect(description.headers["content-encoding"]).toBe("gzip");
  expect(JSON.parse(gunzipSync(description.octets).toString())).toHaveProperty("paths");
  const start = await get("/api/start", asks);
  expect(start.headers["content-encoding"]).toBeUndefined();
  expect(JSON.parse(start.octets.toString())).toHaveProperty("setUp", true);
});

test("an answer that the asker has already is told in a few octets, and comes again once it differs", async () => {
  const asks = { Cookie: juno.cookie };
  const first = await get("/api/house", asks);
  const tag = String(first.headers.etag);
  const same = await get("/api/house", { ...asks, "If-None-Match": `"other", ${tag}` });
  expect([same.status, same.octets.length]).toEqual([304, 0]);
  expect(same.headers["cache-control"]).toBe("no-store");
  // A tag shows nothing to somebody who may not ask.
  expect((await get("/api/house", { "If-None-Match": tag })).status).toBe(401);
  const other = await get("/api/house", { ...asks, "If-None-Match": '"other"' });
  expect([other.status, String(other.headers.etag)]).toEqual([200, tag]);
});

test("events come one by one, not compressed", async () => {
  const answer = await new Promise<IncomingMessage>((resolve, reject) => {
    const asked = request(
      `${house.url}/api/events`,
      {
        // It listened long ago, so there is something to tell at once.
        headers: { Cookie: juno.cookie, "Accept-Encoding": "gzip, br", "Last-Event-ID": "1000" },
      },
      resolve,
    );
    asked.on("error", reject);
    asked.end();
  });
  expect(answer.headers["content-encoding"]).toBeUndefined();
  const first = await new Promise<Buffer>((resolve) => answer.once("data", resolve));
  expect(first.toString()).toContain("event: changed");
  answer.destroy();
});
