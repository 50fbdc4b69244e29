/** Stand in plain words for an address and for the name of a host, so that their dots and letters say nothing. */
export const ADDRESS = "◊";
export const HOST = "⌂";

/** "On this server": a place, of which nothing is said. */
const ON_THE_SERVER = new RegExp(
  [
    "(?:on|at|by) (?:(?:the|this|that|our|my|remote|destination) ){0,2}(?:mail ?)?(?:server|system)",
    "(?:auf|bei|vom|von) (?:\\p{L}+ )?(?:mail-?)?(?:servern?|system)",
    "(?:sur|chez|par) (?:\\p{L}+ )?(?:serveur|systeme)|(?:en|por) (?:\\p{L}+ )?(?:servidor|sistema)",
    "(?:su|sul|nel|dal) (?:\\p{L}+ )?(?:server|sistema)|(?:no|neste|nesse|pelo) (?:servidor|sistema)",
    "(?:op|pa) (?:\\p{L}+ )?(?:server|serveren|servern|systemet?)|(?:na|w) (?:\\p{L}+ )?(?:serwerze|systemie|serveru|sustavu)",
    "(?:на|у|в) (?:\\p{L}+ )?(?:сервер[еіуи]|систем[еіи])",
  ]
    .map((line) => `(?<!\\p{L})(?:${line})(?!\\p{L})`)
    .join("|"),
  "gu",
);

/** The longest reason that is looked at, in characters. */
const LONGEST = 2000;

/** "Answer of the server" before what it says: that server isn't what is spoken of. */
const LABEL =
  /\b(?:answer|reply|response|said|antwort|reponse|respuesta|risposta|odpowiedz)\p{L}*(?: (?:of|from|by|des|der|du|de|del|dell?a?|the|remote|mail|fernen|distant)){0,4} ?(?:mail ?)?(?:server|serveur|servidor|host|serwer)\S*|(?:ответ|відповідь|вiдповiдь) (?:\S+ )?сервера/gu;

/** Letters that Unicode doesn't take apart into one of the alphabet and a mark. */
const LETTERS: Readonly<Record<string, string>> = { ß: "ss", ł: "l", ı: "i", ø: "o", đ: "d" };

/** Text in small letters without marks, "isn't" as "is not", by which phrases and what mail systems write are compared. */
export function foldedWords(text: string): string {
  return (
    text
      // First, as the accent would become a space and a mark.
      .replace(/[’`´]/g, "'")
      .normalize("NFKD")
      .replace(/\p{M}/gu, "")
      .toLowerCase()
      .replace(/[ßłıøđ]/g, (letter) => LETTERS[letter] ?? letter)
      .replace(/(ca|wo)?n't(?!\w)/g, (_, verb: string | undefined) =>
        verb === undefined ? " not" : verb === "ca" ? "can not" : "will not",
      )
  );
}

/**
 * Returns the words of a reason alone: folded, with a sign for each address and host name, without numbers that are codes or
 * networks, so that a full stop that is left ends a sentence.
 */
export function plainWords(text: string): string {
  let last = "";
  return foldedWords(text.slice(0, LONGEST))
    .replace(/(?<![\d.])[45]\d\d(?=[ -])/g, (code) => {
      // Each line of a longer reply has its code (RFC 5321, section 4.2.1); the first begins what was said.
      const stand = code === last ? " " : ". ";
      last = code;
      return stand;
    })
    .replace(/[^\s<>()"',;:=]{1,64}@[^\s<>()"',;:]{1,255}/g, ADDRESS)
    .replace(/https?:\/\/\S{1,300}/g, " ")
    .replace(/\b\d{1,3}(?:\.\d{1,3}){2,3}\b/g, " ")
    .replace(/\b(?:[a-z0-9-]{1,63}\.){1,8}[a-z]{2,24}\b/g, HOST)
    .replace(/[\s_<>"[\]()#*]+/g, " ")
    .replace(/ in reply to \S+( to| from)?( command)?/g, " ")
    .replace(LABEL, ". ")
    .replace(ON_THE_SERVER, " ");
}
