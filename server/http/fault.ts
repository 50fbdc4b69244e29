import { say } from "@amigo/language/say";
import { noSuch, Refused, type What } from "../refused";

/** A refusal on its way out of a handler. Answered as problem details (RFC 9457). */
export class Refusal extends Error {
  readonly refused: Refused;

  constructor(...parts: ConstructorParameters<typeof Refused>) {
    super(say(parts[2]));
    this.refused = new Refused(...parts);
  }

  get status(): Refused["status"] {
    return this.refused.status;
  }

  get type(): string {
    return this.refused.type;
  }

  get detail(): string {
    return this.message;
  }

  get field(): string | undefined {
    return this.refused.field;
  }
}

/** Ends a request with the refusal for something that isn't there, or not for whoever asks. */
export const notFound = (what: What): Refusal => refusalOf(noSuch(what));

/** Returns a refusal in the form in which a handler throws it. */
export function refusalOf({ status, type, detail, field }: Refused): Refusal {
  return new Refusal(status, type, detail, field);
}

/**
 * Ends a request with what a check has refused; does nothing where it has refused nothing.
 *
 * @throws Refusal
 */
export function refuse(found: Refused): never;
export function refuse(found: unknown): void;
export function refuse(found: unknown): void {
  if (found instanceof Refused) throw refusalOf(found);
}

/**
 * Returns what was asked for, or ends the request with what was refused.
 *
 * @throws Refusal
 */
export function orRefuse<Result>(found: Result): Exclude<Result, Refused> {
  if (found instanceof Refused) throw refusalOf(found);
  return found as Exclude<Result, Refused>;
}
