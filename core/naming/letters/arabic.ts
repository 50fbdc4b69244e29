import { table } from "./table";

/** How letters of Arabic, Persian and Urdu are written in Latin ones; short vowels aren't written there, so they can't be here. */
const LETTERS = table(`
  ا a أ a إ i آ a ٱ a ب b ت t ث th ج j ح h خ kh د d ذ dh ر r ز z س s ش sh ص s ض d ط t ظ z ع a غ gh ف f ق q ك k ل l م m
  ن n ه h ة a و w ؤ w ي y ى a ئ y ء - پ p چ ch ژ zh گ g ک k ی y ھ h ہ h ے e ں n ٹ t ڈ d ڑ r`);

/** Returns a text with its Arabic letters written in Latin ones; marks for vowels and the lines that stretch a word go. */
export function withoutArabic(text: string): string {
  return text
    .normalize("NFKC")
    .replace(/[\u0610-\u061a\u0640\u064b-\u065f\u0670\u06d6-\u06ed\u200c]/g, "")
    .replace(/[\u0621-\u06d3]/g, (letter) => LETTERS.get(letter) ?? letter);
}
