import type { MiddlewareHandler } from "hono";
import { bodyLimit } from "hono/body-limit";
import { ALL_ENDPOINTS } from "@amigo/contract/endpoints";
import { SHELF_FILE } from "@amigo/contract/shelf";
import { FILE_BODY, USUAL_BODY } from "@amigo/contract/endpoint";
import { Refusal } from "./fault";
import { t } from "../texts/t";

/** What a form tool may post to the address of a source, in octets. */
const POSTED_BODY = 200 * 1024;

/** How much a calendar or address book program may send at once, in octets. */
const DAV_BODY = 2 * 1024 * 1024;

interface Larger {
  method: string;
  path: RegExp;
  most: number;
  isStreamed?: boolean;
}

const LARGER: readonly Larger[] = [
  ...ALL_ENDPOINTS.flatMap(({ method, path, most, bodyType }) =>
    most === undefined
      ? []
      : [
          {
            method: method.toUpperCase(),
            path: patternOf(path),
            most,
            isStreamed: bodyType === "octets",
          },
        ],
  ),
  { method: "POST", path: patternOf("/in/{token}"), most: POSTED_BODY },
  { method: "PUT", path: /^\/shelves\//, most: SHELF_FILE, isStreamed: true },
  // A program asks for many things by their paths at once, and puts groups with many members.
  ...["REPORT", "PUT"].map((method) => ({ method, path: /^\/dav\//, most: DAV_BODY })),
];

/** Refuses bodies that are larger than their route needs, on every path, before anything of them is read. */
export function limitBody(): MiddlewareHandler {
  const limits = new Map(
    [...new Set([USUAL_BODY, ...LARGER.map(({ most }) => most)])].map((most) => [
      most,
      bodyLimit({
        maxSize: most,
        onError: () => {
          throw tooLarge(most);
        },
      }),
    ]),
  );
  return (http, next) => {
    const { method, path } = http.req;
    const larger = LARGER.find(
      (candidate) => candidate.method === method && candidate.path.test(path),
    );
    // What is read as it comes is counted by whoever reads it, as its length may not be told before.
    if (larger?.isStreamed === true) return next();
    return (limits.get(larger?.most ?? USUAL_BODY) ?? next)(http, next);
  };
}

function patternOf(path: string): RegExp {
  return new RegExp(`^${path.replace(/\{\w+\}/g, "[^/]+")}$`);
}

function tooLarge(most: number): Refusal {
  return most === FILE_BODY
    ? new Refusal(413, "reading/too-large", t("http.thisFileHasMoreThan"), "file")
    : new Refusal(413, "too-large", t("http.thisIsMoreThanCan", { most: Math.floor(most / 1024) }));
}
