/** Where the demo house and its Mailtown answer. */
export interface DemoHouse {
  /** The address of the pages, without a slash at its end. */
  url: string;
  mailtown: string;
}

/** Asks the API of the house as somebody who is signed in. */
export type Ask = <Answer>(method: string, path: string, body?: unknown) => Promise<Answer>;

/** How long something that happens in the background may take, in milliseconds. */
const PATIENCE = 60_000;

/** Asks again and again until there is an answer. */
export async function until<Answer>(ask: () => Promise<Answer | undefined>): Promise<Answer> {
  for (const ends = Date.now() + PATIENCE; Date.now() < ends;) {
    const answer = await ask();
    if (answer !== undefined) return answer;
    await new Promise((resolve) => {
      setTimeout(resolve, 100);
    });
  }
  throw new Error("The demo house took too long.");
}
