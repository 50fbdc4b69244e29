/** Signs and words that patterns stumble over when they are repeated. */
export const PIECES = [
  ..."\n \t\0a1@.,;:-_<>()[]{}\"'=+*/\\|&#%é",
  "\r\n",
  "a ",
  "a@",
  "a@b.example, ",
  "<a",
  "(a",
  '"a',
  "- ",
  "--- ",
  "---\n",
  "\n ",
  ": ",
  "re: ",
  "a:\n",
  "Reason: \n",
  "Status: 5.1.1\n",
  "550 ",
  "5.1.1 ",
  "user ",
  "mailbox ",
  "domain ",
  "said ",
  "confirm you ",
  "click ",
  "<a@b.example>:\n",
  "the following addresses had ",
  "{a",
  "ab-",
  "and ",
  "van der ",
  "1/2/",
  "&amp;",
];

const SHORT = 2_000;
const LONG = 32_000;
/** Below this many milliseconds nothing is slow, whatever its growth. */
const QUICK = 30;
/** Sixteen times the text may take sixteen times as long, and four times that for a machine that does other things too. */
const GROWTH = (LONG / SHORT) * 4;

/**
 * Returns the pieces that, repeated, make a function's work grow faster than the text: a text sixteen times as long takes far
 * more than sixteen times the time of the short one, measured in the same run.
 */
export function slowPieces(
  run: (text: string) => unknown,
  pieces: readonly string[] = PIECES,
  beginnings: readonly string[] = [""],
): string[] {
  return beginnings.flatMap((beginning) =>
    pieces
      .filter((piece) => {
        const text = (length: number): string =>
          `${beginning}${piece.repeat(Math.ceil(length / piece.length)).slice(0, length)}`;
        const long = timeOf(run, text(LONG), 1);
        if (long < QUICK) return false;
        const most = QUICK + GROWTH * timeOf(run, text(SHORT), 3);
        // Only what seems slow is measured again: most functions take their time, and no more than that.
        return long > most && timeOf(run, text(LONG), 2) > most;
      })
      .map((piece) => `${beginning}${piece}`),
  );
}

/** The least of some runs, in milliseconds of the processor: what other programs do meanwhile doesn't count. */
function timeOf(run: (text: string) => unknown, text: string, turns: number): number {
  let least = Infinity;
  for (let turn = 0; turn < turns; turn++) {
    const from = process.cpuUsage();
    try {
      run(text);
    } catch {
      // What a function makes of nonsense is for other tests.
    }
    const { user, system } = process.cpuUsage(from);
    least = Math.min(least, (user + system) / 1000);
  }
  return least;
}
