import { join } from "node:path";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { Person } from "./browser";
import { startStack } from "./stack";
const stack = await startStack();
const p = await Person.open(stack.url);
try {
await p.read("This is the demo house"); await p.click("button", "Juno Abara"); await p.read("Lists come out");
await p.go("/sources"); await p.read("Drop the roster here"); await p.chooseFile(join(SAMPLES_FOLDER, "autumn-roster.xlsx")); await p.click("button", "Read 220 students"); await p.click("button", "Bring 30 lists in step"); await p.read("No round is open");
await p.go("/forms"); await p.read("Let families tell"); await p.picture("/tmp/f1.png");
await p.click("button", "Make a form"); await p.see("heading", "Make a form"); await p.click("button", "Add a question"); await p.type("Question 1", "Costume size"); await p.type("Choices", "small, medium, large");
await new Promise(r => setTimeout(r, 1500)); await p.picture("/tmp/f2.png");
await p.click("button", "Make the form"); await p.see("heading", "Notice to print"); await new Promise(r => setTimeout(r, 800)); await p.picture("/tmp/f3.png");
await p.click("tab", "Not answered"); await p.read("of 220"); await p.picture("/tmp/f4.png");
const phone = await Person.open(stack.url + "/f/sign-up-for-mail"); await phone.narrow(360, 740); await phone.go(""); await phone.see("textbox", "first name"); await phone.picture("/tmp/f5.png");
await phone.type("Child's first name", "Ida"); await phone.type("Your email address", "ida@oakmail,example"); await phone.click("button", "Send"); await phone.read("second look"); await phone.picture("/tmp/f6.png");
await phone.driver.executeScript("document.querySelector('#at-address').scrollIntoView()"); await phone.picture("/tmp/f7.png");
console.log(await phone.seriousFindings(), await p.seriousFindings(), await p.errors(), await phone.errors());
await phone.close();
} catch (e) { console.log(String(e)); await p.picture("/tmp/fx.png"); console.log(await p.errors()); }
await p.close(); await stack.close(); process.exit(0);
