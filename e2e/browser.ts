import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import axe from "axe-core";
import {
  Builder,
  By,
  Key,
  logging,
  until,
  type WebDriver,
  type WebElement,
} from "selenium-webdriver";
import { Driver as ChromeDriver, Options, ServiceBuilder } from "selenium-webdriver/chrome";

/** For how long a person waits, in milliseconds: a busy machine takes long over a large sheet, and only a test that fails waits to the end. */
export const WAIT = 120_000;
/** After how many milliseconds the page is looked at again: looking takes 2 ms, and most pages are ready within 100. */
const AGAIN = 50;
const FAILURES = new URL("failures/", import.meta.url);

/** Finds by what a person, or a screen reader, is told: a role and a name. Runs in the page. */
const FIND = `
const [role, name, exact] = arguments;
const selectors = { button: "button:not([role]),[role=button]", disclosure: "summary", link: "a[href]", textbox: "input:not([type=checkbox]):not([type=radio]):not([type=file]):not([type=hidden]),textarea,[role=textbox]", checkbox: "input[type=checkbox],[role=checkbox]", tab: "[role=tab]", option: "[role=option]", combobox: "[role=combobox]", heading: "h1,h2,h3", row: "[role=row],tr", cell: "[role=cell],td", status: "[role=status]", alert: "[role=alert]", dialog: "[role=dialog]", navigation: "nav" };
const named = (node) => {
  const own = node.getAttribute("aria-label");
  if (own) return own;
  if (node.labels && node.labels.length) return [...node.labels].map((label) => label.textContent).join(" ");
  return node.textContent || node.getAttribute("placeholder") || node.getAttribute("title") || "";
};
const tidy = (text) => text.replace(/\\s+/g, " ").trim();
const found = [...document.querySelectorAll(selectors[role] || "[role=" + role + "]")].filter((node) => {
  const box = node.getBoundingClientRect();
  if (box.width === 0 || getComputedStyle(node).visibility === "hidden") return false;
  const text = tidy(named(node));
  return exact ? text === name : text.toLowerCase().includes(name.toLowerCase());
});
return found[0] || null;`;

/** What a node in a page says of itself to a person who comes to it by Tab. */
const LABEL = `(node) => (node.getAttribute("aria-label") || (node.labels && node.labels[0] && node.labels[0].textContent) ||
  node.textContent || node.getAttribute("placeholder") || node.tagName).replace(/\\s+/g, " ").trim()`;

/** What stands beyond the edge of the window and in no frame that scrolls, runs in the page. Fields need 44 px to be typed in. */
const MISFITS = `
const found = [], width = innerWidth;
if (document.scrollingElement.scrollWidth > width + 1) found.push("the page scrolls sideways");
const main = document.querySelector("main");
if (main && main.scrollWidth > main.clientWidth + 1) found.push("what is in the page is " + main.scrollWidth + " px wide");
const scrolls = (node) => {
  for (let up = node.parentElement; up && up !== document.body; up = up.parentElement)
    if (up.tagName !== "MAIN" && /auto|scroll/.test(getComputedStyle(up).overflowX) && up.scrollWidth > up.clientWidth) return true;
  return false;
};
for (const node of document.querySelectorAll("button, a, input, select, textarea, h1, h2, h3, p, th, td, label")) {
  const box = node.getBoundingClientRect();
  if (box.width < 2 || box.height < 2 || node.closest(".sr-only, [aria-hidden=true]")) continue;
  const says = (node.getAttribute("aria-label") || node.textContent || "").trim().slice(0, 40);
  if ((box.right > width + 1 || box.left < -1) && !scrolls(node)) found.push(node.tagName + " beyond the edge: " + says);
  if (/^(INPUT|TEXTAREA)$/.test(node.tagName) && !/checkbox|radio|file/.test(node.type) && box.width < 44) found.push("a field of " + Math.round(box.width) + " px: " + says);
}
return [...new Set(found)];`;

/** A person at a browser: finds by role and name, clicks, types, looks. */
export class Person {
  /** The window and the colours that the page was last made to believe in. */
  private emulated = { size: "", colours: "" };

  private constructor(
    readonly driver: WebDriver,
    private readonly profile: string,
    private readonly home: string,
  ) {}

  /** Opens Chromium on a page of the house. */
  static async open(
    home: string,
    { width = 1280, height = 800, dark = false } = {},
  ): Promise<Person> {
    const profile = mkdtempSync(join(tmpdir(), "amigo-chromium-"));
    const options = new Options();
    options.setChromeBinaryPath("/usr/bin/chromium");
    options.addArguments(
      "--headless=new",
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
      "--disable-dev-shm-usage",
      "--force-device-scale-factor=1",
      "--hide-scrollbars=false",
      `--window-size=${width},${height}`,
      `--user-data-dir=${profile}`,
      ...(dark ? ["--force-dark-mode", "--blink-settings=preferredColorScheme=0"] : []),
    );
    const wanted = new logging.Preferences();
    wanted.setLevel(logging.Type.BROWSER, logging.Level.ALL);
    options.setLoggingPrefs(wanted);
    const driver = await new Builder()
      .forBrowser("chrome")
      .setChromeOptions(options)
      .setChromeService(new ServiceBuilder("/usr/bin/chromedriver"))
      .build();
    const person = new Person(driver, profile, home);
    try {
      await person.resize(width, height);
      await driver.get(home);
    } catch (failure) {
      await person.close();
      throw failure;
    }
    return person;
  }

  async close(): Promise<void> {
    await this.driver.quit();
    rmSync(this.profile, { recursive: true, force: true });
  }

  /** Makes the inside of the window just so large. */
  async resize(width: number, height: number): Promise<void> {
    const [wide, high] = await this.driver.executeScript<[number, number]>(
      "return [window.outerWidth - window.innerWidth, window.outerHeight - window.innerHeight]",
    );
    await this.driver
      .manage()
      .window()
      .setRect({ width: width + wide, height: height + high });
  }

  /** As wide as a phone: narrower than a window can be. */
  async narrow(width: number, height: number): Promise<void> {
    this.emulated.size = "";
    await this.command("Emulation.setDeviceMetricsOverride", {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: true,
    });
  }

  /** Gives the browser a device that makes and keeps passkeys, and whose owner always says yes. */
  async holdPasskeys(): Promise<void> {
    await this.command("WebAuthn.enable", {});
    await this.command("WebAuthn.addVirtualAuthenticator", {
      options: {
        protocol: "ctap2",
        transport: "internal",
        hasResidentKey: true,
        hasUserVerification: true,
        isUserVerified: true,
        automaticPresenceSimulation: true,
      },
    });
  }

  /** Makes the browser one of somebody who reads a language: it asks for pages in it, and tells them so. */
  async reads(language: string): Promise<void> {
    const userAgent = await this.driver.executeScript<string>("return navigator.userAgent");
    await this.command("Network.setUserAgentOverride", { userAgent, acceptLanguage: language });
    await this.command("Emulation.setLocaleOverride", { locale: language });
  }

  async go(path: string): Promise<void> {
    await this.driver.get(`${this.home}${path}`);
  }

  /** Waits until something of that role and name can be seen. */
  async see(role: string, name: string, exact = false): Promise<WebElement> {
    return this.waitFor(
      async () => this.driver.executeScript<WebElement | null>(FIND, role, name, exact),
      `nothing with the role ${role} and the name "${name}" came into sight`,
    ) as Promise<WebElement>;
  }

  async seesNot(role: string, name: string): Promise<boolean> {
    return (await this.driver.executeScript<WebElement | null>(FIND, role, name, false)) === null;
  }

  /** Waits until a text stands on the page. */
  async read(text: string): Promise<void> {
    await this.waitFor(
      async () => (await this.text()).includes(text),
      `the text "${text}" did not come`,
    );
  }

  /** Waits until something is so. A failure says what the page shows instead, which is where its cause is found. */
  private async waitFor<Found>(look: () => Promise<Found>, failing: string): Promise<Found> {
    try {
      return (await this.driver.wait(look, WAIT, failing, AGAIN)) as Found;
    } catch (failure) {
      const address = await this.driver.getCurrentUrl();
      throw new Error(`${failing}; ${address} says:\n${await this.text()}`, { cause: failure });
    }
  }

  async text(): Promise<string> {
    return (await this.driver.executeScript<string>("return document.body.innerText")).replace(
      /\s+/g,
      " ",
    );
  }

  async click(role: string, name: string, exact = false): Promise<void> {
    await this.waitFor(async () => {
      const element = await this.driver.executeScript<WebElement | null>(FIND, role, name, exact);
      if (element === null) return false;
      try {
        if (!(await element.isEnabled())) return false;
        await element.click();
        return true;
      } catch {
        // Something that stays in sight may cover it: a person scrolls on, then tries again.
        await this.driver
          .executeScript("arguments[0].scrollIntoView({ block: 'center' })", element)
          .catch(() => undefined);
        return false;
      }
    }, `nothing with the role ${role} and the name "${name}" could be clicked`);
  }

  async type(name: string, text: string): Promise<void> {
    const field = await this.see("textbox", name);
    await field.sendKeys(Key.chord(Key.CONTROL, "a"), text);
  }

  async press(...keys: string[]): Promise<void> {
    await this.driver
      .actions()
      .sendKeys(...keys)
      .perform();
  }

  /** Pastes a text where the focus is, as it was copied out of another program. */
  async paste(text: string): Promise<void> {
    await this.driver.executeScript(
      "const data = new DataTransfer(); data.setData('text/plain', arguments[0]); document.activeElement.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));",
      text,
    );
  }

  /** Presses a key while another is held down. */
  async chord(held: string, key: string): Promise<void> {
    await this.driver.actions().keyDown(held).sendKeys(key).keyUp(held).perform();
  }

  /** Chooses a file as if it were dropped. */
  async chooseFile(path: string): Promise<void> {
    const input = await this.driver.wait(until.elementLocated(By.css("input[type=file]")), WAIT);
    await input.sendKeys(path);
  }

  async chooseFolder(path: string): Promise<void> {
    const input = By.css("input[type=file][webkitdirectory]");
    await (await this.driver.wait(until.elementLocated(input), WAIT)).sendKeys(path);
  }

  /** Pastes a file into the page. */
  async pasteFile(name: string, text: string): Promise<void> {
    await this.driver.executeScript(
      `const data = new DataTransfer();
       data.items.add(new File([arguments[1]], arguments[0]));
       document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));`,
      ...[name, text],
    );
  }

  async picture(path: string | URL): Promise<void> {
    writeFileSync(path, Buffer.from(await this.driver.takeScreenshot(), "base64"));
  }

  /** What has the focus, by its label or what it says; nothing where the page itself has it. */
  async focused(): Promise<string> {
    return this.driver.executeScript<string>(
      `const node = document.activeElement; return node === document.body ? '' : (${LABEL})(node)`,
    );
  }

  /** Presses Tab until something that says so has the focus, once it is on the page. */
  async tabTo(name: string): Promise<void> {
    await this.driver.wait(
      () =>
        this.driver.executeScript<boolean>(
          `return [...document.querySelectorAll('a[href], button:enabled, input, select, textarea, [tabindex]')].some((node) => (${LABEL})(node).includes(arguments[0]))`,
          name,
        ),
      WAIT,
      `nothing to tab to says "${name}"`,
      AGAIN,
    );
    for (let press = 0; press < 160; press++) {
      if ((await this.focused()).includes(name)) return;
      await this.press(Key.TAB);
    }
    throw new Error(`Tab never came to "${name}"; it stopped at "${await this.focused()}"`);
  }

  /** Goes somewhere by the field that finds everything, as its first hit. */
  async goBy(words: string, hit = words): Promise<void> {
    await this.chord(Key.CONTROL, "k");
    await this.driver.wait(
      async () => (await this.focused()).startsWith("Find"),
      WAIT,
      "the field that finds did not open",
      AGAIN,
    );
    await this.press(words);
    await this.see("option", hit);
    await this.press(Key.ENTER);
    // As it closes, the focus goes back to where it was: keys that come before that would be lost.
    await this.driver.wait(
      async () => this.seesNot("option", hit),
      WAIT,
      "the field that finds did not close",
      AGAIN,
    );
  }

  /** What axe-core finds on the page as it is, however small; by all of its rules, or by some. */
  async findings(rules: readonly string[] = []): Promise<string[]> {
    if (!(await this.driver.executeScript<boolean>("return 'axe' in window")))
      await this.driver.executeScript(axe.source);
    const found = await this.driver.executeAsyncScript<{
      violations: { id: string; nodes: { html: string }[] }[];
    }>(
      "const done = arguments[arguments.length - 1]; axe.run(document, { resultTypes: ['violations'], ...(arguments[0].length ? { runOnly: arguments[0] } : {}) }).then(done);",
      rules,
    );
    return found.violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html.slice(0, 160) ?? ""}`);
  }

  /** What does not fit into the window: a page that scrolls sideways, things that stand beyond its edge, fields too thin to type in. */
  async misfits(): Promise<string[]> {
    return this.driver.executeScript<string[]>(MISFITS);
  }

  /** Lets the page believe in another window and other colours, without loading it again. */
  async emulate(width: number, height: number, colours: "light" | "dark"): Promise<void> {
    const size = `${width} × ${height}`;
    if (size !== this.emulated.size)
      await this.command("Emulation.setDeviceMetricsOverride", {
        width,
        height,
        deviceScaleFactor: 1,
        mobile: width < 768,
      });
    if (colours !== this.emulated.colours)
      await this.command("Emulation.setEmulatedMedia", {
        features: [{ name: "prefers-color-scheme", value: colours }],
      });
    this.emulated = { size, colours };
    await this.driver.executeAsyncScript(
      "const done = arguments[arguments.length - 1]; requestAnimationFrame(() => requestAnimationFrame(done));",
    );
  }

  private async command(name: string, parameters: object): Promise<void> {
    if (!(this.driver instanceof ChromeDriver)) throw new Error("this is no Chromium");
    await this.driver.sendDevToolsCommand(name, parameters);
  }

  /** What the page wrote to its console as errors. */
  async errors(): Promise<string[]> {
    const entries = await this.driver.manage().logs().get(logging.Type.BROWSER);
    return entries
      .filter(({ level }) => level.value >= logging.Level.SEVERE.value)
      .map(({ message }) => message)
      .filter((message) => !/status of 4\d\d/.test(message));
  }

  /** Leaves a picture of the page and its console, for whoever looks into a failure. */
  async leaveEvidence(name: string): Promise<void> {
    mkdirSync(FAILURES, { recursive: true });
    await this.picture(new URL(`${name}.png`, FAILURES));
    const entries = await this.driver.manage().logs().get(logging.Type.BROWSER);
    writeFileSync(
      new URL(`${name}.txt`, FAILURES),
      [
        await this.driver.getCurrentUrl(),
        ...entries.map(({ level, message }) => `${level.name} ${message}`),
        await this.text(),
      ].join("\n"),
    );
  }
}
