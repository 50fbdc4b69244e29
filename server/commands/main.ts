import { Command, InvalidArgumentError } from "commander";
import { resetTwoStep } from "./account";
import { backupCommand, restoreCommand } from "./backup";
import { kindInDatabase } from "./kind";
import { houseFrom, type AskedHouse } from "./askHouse";
import { acceptRound, readSource, showRound, takeRoundBack, type Passed } from "./house";
import { readCommand, type ReadOptions } from "./read";
import { replaceKey } from "./replaceKey";
import { returnedCommand } from "./returned";
import { verifyJournal } from "./verifyJournal";

const program = new Command("amigo").description("Amigo at the command line");

program
  .command("read")
  .description(
    "read files in the given order, without the database, and print what Amigo understood",
  )
  .argument("<files...>", "XLSX, ODS, XLS, CSV or text files")
  .option("--json", "print everything as JSON")
  .option("--each", "read each file on its own; with --json the answer is a list")
  .option(
    "--columns <list>",
    'what the columns hold, in their order or by letter: "student.surname,student.given,classes" or "A=student.name,D=guardian.address 1"; - for a column that isn\'t used',
  )
  .option("--sheet <name>", "the sheet to read")
  .option("--header <row>", "the row of titles, counted from 1; 0 if there is none", rowNumber)
  .action((files: string[], options: ReadOptions) => {
    const answer = readCommand(files, options);
    if (answer.ok) console.log(answer.text);
    else refuse(answer.sentence);
  });

program
  .command("returned")
  .description(
    "read mails that came back, without the database, and print what Amigo makes of each: whether it is a bounce, of which kind, and what it means for the address",
  )
  .argument("<files...>", "mails as they arrived, one a file")
  .option("--json", "print a list as JSON")
  .action(async (files: string[], options: { json?: boolean }) => {
    const answer = await returnedCommand(files, options);
    if (answer.ok) console.log(answer.text);
    else refuse(answer.sentence);
  });

const source = program
  .command("source")
  .description("the sources of a running Amigo (AMIGO_URL, AMIGO_TOKEN)");
source
  .command("read")
  .description("import a file into a source, or what is in the source's own place now")
  .argument("<name>", "the source's name")
  .argument("[file]", "the file to import, for a source without a place of its own")
  .action((name: string, file: string | undefined) =>
    ask((house) => readSource(house, name, file)),
  );

const round = program
  .command("round")
  .description("the rounds of a running Amigo (AMIGO_URL, AMIGO_TOKEN)");
round
  .command("show")
  .description("show the open round, or one by its number")
  .argument("[number]", "the round's number", wholeNumber)
  .action((number: number | undefined) => ask((house) => showRound(house, number)));
round
  .command("accept")
  .description("bring the lists in step with the accepted changes of the open round")
  .option(
    "--pass <check=count>",
    "the count that confirms a safety check; can be given several times",
    collect,
    {},
  )
  .action(({ pass }: { pass: Passed }) => ask((house) => acceptRound(house, pass)));
round
  .command("back")
  .description("preview undoing a past round; with --yes, undo it")
  .argument("<number>", "the round's number", wholeNumber)
  .option(
    "--pass <check=count>",
    "the count that confirms a safety check; can be given several times",
    collect,
    {},
  )
  .option("--yes", "undo it")
  .action((number: number, { pass, yes }: { pass: Passed; yes?: boolean }) =>
    ask((house) => takeRoundBack(house, number, pass, yes === true)),
  );

program
  .command("account")
  .description("accounts, directly in the database (AMIGO_DATABASE_URL)")
  .command("reset-two-step")
  .description(
    "remove somebody's authenticator app, passkeys and recovery codes after all of them were lost",
  )
  .argument("<address>", "the account's email address")
  .action((address: string) => tell(() => resetTwoStep(process.env.AMIGO_DATABASE_URL, address)));

program
  .command("backup")
  .description(
    "make one file of everything that this house needs to be put up again, while Amigo runs (AMIGO_DATABASE_URL, AMIGO_DATA)",
  )
  .argument("<file>", "the file to make, such as amigo-2026-11-30.tar")
  .action((file: string) => tell(() => backupCommand(process.env, file)));

program
  .command("restore")
  .description(
    "put a house up again from a backup, in an empty database; sending stays paused until somebody resumes it (AMIGO_DATABASE_URL, AMIGO_DATA)",
  )
  .argument("<file>", "the backup")
  .action((file: string) => tell(() => restoreCommand(process.env, file)));

program
  .command("journal")
  .description("the journal, directly in the database (AMIGO_DATABASE_URL)")
  .command("verify")
  .description(
    "look whether the journal is as it was written: each entry holds the hash of the one before",
  )
  .option(
    "--known <place:hash>",
    "the end of the journal as an earlier look printed it, which must still be in it",
  )
  .action(({ known }: { known?: string }) =>
    tell(() => verifyJournal(process.env.AMIGO_DATABASE_URL, known)),
  );

program
  .command("kind")
  .description(
    "say which kind of house the database holds: demo, house or empty (AMIGO_DATABASE_URL)",
  )
  .action(() => tell(() => kindInDatabase(process.env.AMIGO_DATABASE_URL)));

program
  .command("key")
  .description("the house's key, directly in the database (AMIGO_DATABASE_URL)")
  .command("replace")
  .description(
    "give up the house's key after it was lost for good, so that the next start makes one",
  )
  .action(() => tell(() => replaceKey(process.env.AMIGO_DATABASE_URL)));

async function ask(run: (house: AskedHouse) => Promise<string>): Promise<void> {
  await tell(() => run(houseFrom(process.env)));
}

async function tell(run: () => Promise<string>): Promise<void> {
  try {
    console.log(await run());
  } catch (failure) {
    refuse(failure instanceof Error ? failure.message : String(failure));
  }
}

function refuse(sentence: string): void {
  console.error(sentence);
  process.exitCode = 1;
}

function rowNumber(text: string): number {
  if (!/^\d+$/.test(text)) throw new InvalidArgumentError("Give the row as a whole number.");
  return Number(text);
}

function wholeNumber(text: string): number {
  if (!/^\d+$/.test(text)) throw new InvalidArgumentError("Give the round's number.");
  return Number(text);
}

function collect(text: string, before: Passed): Passed {
  const at = text.lastIndexOf("=");
  if (at < 1 || !/^\d+$/.test(text.slice(at + 1)))
    throw new InvalidArgumentError('Write it as "check=count", as `round show` prints it.');
  return { ...before, [text.slice(0, at)]: Number(text.slice(at + 1)) };
}

program
  .parseAsync()
  .catch((failure: unknown) =>
    refuse(failure instanceof Error ? failure.message : String(failure)),
  );
