import type { Message } from "@amigo/language/message";
import { t } from "./texts/t";

/**
 * What somebody asked for and can't have, as a value: functions return it in place of their result, so a caller
 * can't overlook it. Only the handler of a request throws it on (`orRefuse`).
 */
export class Refused {
  constructor(
    /** The HTTP status that says it best (RFC 9110, section 15). */
    readonly status: 400 | 401 | 403 | 404 | 409 | 413 | 422 | 429 | 503,
    /** A stable name for the kind of fault, such as `reading/no-name-column`. */
    readonly type: string,
    /** One sentence: what is wrong, where, what to do. */
    readonly detail: string | Message,
    /** The field of the request that it is about. */
    readonly field?: string,
  ) {}
}

/** Returns a refusal as a value. */
export function refused(...parts: ConstructorParameters<typeof Refused>): Refused {
  return new Refused(...parts);
}

/** What may not be there, by the names that its texts choose by. */
export type What =
  | "account"
  | "address"
  | "answer"
  | "attachment"
  | "cause"
  | "cell"
  | "child"
  | "class"
  | "comment"
  | "correctionInForce"
  | "date"
  | "draft"
  | "entry"
  | "file"
  | "form"
  | "guest"
  | "import"
  | "intake"
  | "job"
  | "list"
  | "member"
  | "passkey"
  | "password"
  | "person"
  | "picture"
  | "post"
  | "privateList"
  | "question"
  | "reading"
  | "request"
  | "round"
  | "row"
  | "school"
  | "season"
  | "session"
  | "source"
  | "template"
  | "thing"
  | "token"
  | "version"
  | "watchedAddress"
  | "wordInForce";

/** Returns the refusal for something that isn't there, or not for whoever asks. */
export function noSuch(what: What): Refused {
  return refused(404, "not-found", t("http.thereIsNoSuchOr", { what }));
}
