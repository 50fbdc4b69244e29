import { expect, test } from "vitest";
import { readSettings } from "./settings";

const URL_GIVEN = { AMIGO_DATABASE_URL: "postgres://amigo@127.0.0.1/amigo" };

test("settings have the documented defaults", () => {
  expect(readSettings(URL_GIVEN)).toMatchObject({
    port: 8080,
    smtpPort: 2525,
    submissionPort: 2587,
    mailtownPort: 8025,
    data: "./.amigo",
    relay: "smtp://127.0.0.1:2526",
    url: "http://localhost:8080",
    demo: false,
  });
});

test.each([
  [{ ...URL_GIVEN, AMIGO_PORT: "eighty" }, /AMIGO_PORT.*"eighty"/],
  [{ ...URL_GIVEN, AMIGO_PORT: "70000" }, /AMIGO_PORT/],
  [{ ...URL_GIVEN, AMIGO_RELAY: "mail.example" }, /AMIGO_RELAY: must start with smtp:\/\//],
  [{ AMIGO_DATABASE_URL: "mysql://x" }, /AMIGO_DATABASE_URL: must start with postgres:\/\//],
  [{}, /AMIGO_DATABASE_URL.*not set/],
  [{ ...URL_GIVEN, AMIGO_TLS_KEY: "/key.pem" }, /set both or neither/],
  [{ ...URL_GIVEN, AMIGO_ROLES: "cook" }, /AMIGO_ROLES/],
])("a faulty setting is named with what it holds: %j", (environment, sentence) => {
  expect(() => readSettings(environment)).toThrow(sentence);
});
