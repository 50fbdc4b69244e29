/** Pictures, texts and what offices write, by the endings of names. */
const DOCUMENTS: ReadonlySet<string> = new Set([
  ...["png", "jpg", "jpeg", "gif", "webp", "heic", "heif", "avif", "tif", "tiff", "bmp"],
  ...["txt", "md", "csv", "tsv", "ics", "vcf", "rtf", "pdf", "epub"],
  ...["doc", "dot", "docx", "dotx", "xls", "xlt", "xlsx", "xltx", "ppt", "pps", "pptx", "ppsx"],
  ...["odt", "ott", "ods", "ots", "odp", "otp", "odg", "pages", "numbers"],
]);

/** What runs when it is opened on some system: programs, scripts, disks with programs, and documents with programs in them. */
const PROGRAMS: ReadonlySet<string> = new Set([
  ...["exe", "com", "bat", "cmd", "msi", "msp", "mst", "msix", "appx", "scr", "pif", "cpl", "dll"],
  ...["sys", "drv", "ocx", "msc", "inf", "reg", "lnk", "url", "scf", "gadget", "chm", "hta", "jar"],
  ...["js", "jse", "mjs", "vb", "vbs", "vbe", "ws", "wsf", "wsh", "wsc", "sct", "ps1", "psm1"],
  ...["ps1xml", "psd1", "sh", "bash", "zsh", "csh", "command", "run", "py", "pyc", "pl", "rb"],
  ...["app", "pkg", "dmg", "deb", "rpm", "apk", "ipa", "appimage", "desktop", "workflow"],
  ...["iso", "img", "vhd", "vhdx", "xll", "docm", "dotm", "xlsm", "xltm", "xlam", "xlsb"],
  ...["pptm", "potm", "ppam", "ppsm", "sldm"],
]);

/** Returns the ending of a file's name in small letters, as systems see it: dots and spaces behind it don't count. */
function endingOf(name: string): string {
  const [, ending = ""] = /\.([^.]*)$/.exec(name.replace(/[.\s]+$/u, "")) ?? [];
  return ending.trim().toLowerCase();
}

/**
 * Tells whether a shelf takes a file, by its name alone: the name is what decides how it is opened.
 *
 * @param kinds what the list's rule says (`shelfKinds`); what isn't known is as strict as the usual one
 */
export function takesFile(kinds: string, name: string): boolean {
  if (kinds === "any") return true;
  const ending = endingOf(name);
  return kinds === "pictures and documents" ? DOCUMENTS.has(ending) : !PROGRAMS.has(ending);
}
