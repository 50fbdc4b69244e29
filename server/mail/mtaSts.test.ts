import { Hono } from "hono";
import { expect, test } from "vitest";
import { readSettings } from "../settings";
import { mailPolicyRoutes } from "./mtaSts";

async function policy(environment: Record<string, string>): Promise<[number, string]> {
  const app = new Hono();
  const settings = readSettings({ AMIGO_DATABASE_URL: "postgres://x", ...environment });
  mailPolicyRoutes(app, { settings } as never);
  const response = await app.request("/.well-known/mta-sts.txt");
  return [response.status, await response.text()];
}

test("the policy names this mail server where its port has a certificate, and is not there where it has none", async () => {
  const url = { AMIGO_URL: "https://amigo.copperwheel.example" };
  expect(await policy({ ...url, AMIGO_TLS_KEY: "key.pem", AMIGO_TLS_CERT: "cert.pem" })).toEqual([
    200,
    "version: STSv1\r\nmode: testing\r\nmx: amigo.copperwheel.example\r\nmax_age: 604800\r\n",
  ]);
  expect((await policy(url))[0]).toBe(404);
});
