// Draws the icons of the installable app from the mark, by Chromium: node scripts/icons.mjs. Their files are committed.
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { Builder } from "selenium-webdriver";
import { Options, ServiceBuilder } from "selenium-webdriver/chrome.js";

const FOLDER = join(import.meta.dirname, "../web/public");
const BARS = (red, blue, green) =>
  `<rect x="4" y="12" width="7" height="8" rx="2" fill="${red}"/><rect x="12" y="12" width="8" height="8" fill="${blue}"/><rect x="21" y="12" width="7" height="8" rx="2" fill="${green}"/>`;
const MARK = BARS("#A8402F", "#11566B", "#2F7D4F");

/** What each file holds: the size of its square in pixels, and what is drawn in one of 32. */
const ICONS = {
  "icon-192.png": [192, `<rect width="32" height="32" rx="7" fill="#EEF2F1"/>${MARK}`],
  "icon-512.png": [512, `<rect width="32" height="32" rx="7" fill="#EEF2F1"/>${MARK}`],
  // A system cuts the edges off as it likes; what must be seen stays within the middle four fifths.
  "icon-maskable.png": [
    512,
    `<rect width="32" height="32" fill="#EEF2F1"/><g transform="translate(16 16) scale(.78) translate(-16 -16)">${MARK}</g>`,
  ],
  // Of a badge a system shows the shape alone.
  "icon-badge.png": [96, BARS("#fff", "#fff", "#fff")],
};

const driver = await new Builder()
  .forBrowser("chrome")
  .setChromeOptions(
    new Options()
      .setChromeBinaryPath("/usr/bin/chromium")
      .addArguments("--headless=new", "--no-sandbox", "--disable-gpu"),
  )
  .setChromeService(new ServiceBuilder("/usr/bin/chromedriver"))
  .build();
try {
  for (const [file, [size, drawn]] of Object.entries(ICONS)) {
    const png = await driver.executeAsyncScript(
      `const [size, drawn, done] = arguments;
       const image = new Image();
       image.onload = () => {
         const canvas = Object.assign(document.createElement("canvas"), { width: size, height: size });
         canvas.getContext("2d").drawImage(image, 0, 0, size, size);
         done(canvas.toDataURL("image/png").split(",")[1]);
       };
       image.src = "data:image/svg+xml," + encodeURIComponent(
         '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 32 32" width="' + size + '" height="' + size + '">' + drawn + "</svg>");`,
      size,
      drawn,
    );
    writeFileSync(join(FOLDER, file), Buffer.from(png, "base64"));
  }
} finally {
  await driver.quit();
}
