import { Command } from "commander";
import { readCommand, type CommandAnswer } from "./read";

const program = new Command("amigo").description("Amigo at the command line");

program.command("read")
  .description("read files in the given order, without touching the database, and say what was understood")
  .argument("<files...>", "XLSX, ODS, XLS, CSV or text files")
  .option("--json", "the whole of it as JSON")
  .action((files: string[], { json }: { json?: boolean }) => { print(readCommand(files, json === true)); });

function print(answer: CommandAnswer): void {
  if (answer.ok) console.log(answer.text);
  else {
    console.error(answer.sentence);
    process.exitCode = 1;
  }
}

program.parse();
