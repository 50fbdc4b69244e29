import type { Message } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { t } from "../texts/t";

/** A refusal that a person can act on. Thrown by handlers, answered as problem details (RFC 9457). */
export class Refusal extends Error {
  constructor(
    readonly status: 400 | 401 | 403 | 404 | 409 | 413 | 422 | 429 | 503,
    /** A stable name for the kind of fault, such as `reading/no-name-column`. */
    readonly type: string,
    /** One sentence: what is wrong, where, what to do. */
    detail: string | Message,
    readonly field?: string,
  ) {
    super(say(detail));
  }

  get detail(): string {
    return this.message;
  }
}

/** A refusal as a value, which checks return. Whoever answers the request throws it with `refuse`. */
export interface Refused {
  status: Refusal["status"];
  type: string;
  detail: string | Message;
  field?: string | undefined;
}

/** Returns a refusal as a value. */
export function refused(
  status: Refusal["status"],
  type: string,
  detail: string | Message,
  field?: string,
): Refused {
  return { status, type, detail, field };
}

/**
 * Answers a request with what a check has refused; does nothing where it has refused nothing.
 *
 * @throws Refusal
 */
export function refuse(found: Refused | undefined): void {
  if (found !== undefined) throw new Refusal(found.status, found.type, found.detail, found.field);
}

export const notFound = (what: string): Refusal =>
  new Refusal(404, "not-found", t("http.thereIsNoSuchOr", { what }));
