import type { BounceSort } from "./form";
import { foldedPattern } from "./ideas";

/** How much a phrase says: a plain sentence outranks any code that is vague, a hint no code at all. */
export const SURE = 6;
export const SOMETHING = 4;
export const HINT = 2;

/** The phrases of one sort: patterns over plain words (`plainWords`), written as people write them. To add a wording, add a line. */
interface Phrases {
  sort: BounceSort;
  says: number;
  lines: readonly string[];
}

const PHRASES: readonly Phrases[] = [
  {
    sort: "full",
    says: SURE,
    lines: [
      "over ?(its |the |their )?quota|quota.{0,30}(exceeded|full|reached|violat)|exceed\\w* .{0,30}quota",
      "(mailbox|mail box|inbox|account|user|recipient|folder|maildir|message store)\\b[^.]{0,40}\\bfull\\b",
      "(mailbox|inbox|account|user|recipient)[^.]{0,40}(over|reached) (its |the |their )?(allowed |storage |maximum )?(limit|size)",
      "(storage|mailbox|space) exceeded|out of (storage|space|disk)|(storage|space) (limit|quota|allocation)|exceeded storage",
      "(insufficient|not enough|no) (disk |mailbox |free )?(storage|space|room)( left)?",
      "(exceed\\w*|over|reached) (its|their|the|his|her) (disk |storage |mail )?(allotment|allocation|allowance)",
      "too (many|much) (messages|mails?) (in|stored)",
      "disk (quota|full)|mailbox size (limit|exceeded)|mailbox.{0,30}(exceeds|exceeded).{0,30}(size|limit|storage)",
      "postfach[^.]{0,60}(voll|überfüllt)|speicherplatz[^.]{0,40}(voll|erschöpft|überschritten)|kontingent[^.]{0,30}(überschritten|erschöpft)|quota überschritten",
      "boîte[^.]{0,60}(pleine|saturée)|quota[^.]{0,30}(dépassé|atteint)|dépassé[^.]{0,30}quota|espace[^.]{0,40}insuffisant",
      "(buzón|bandeja)[^.]{0,40}llen[oa]|(cuota|quota)[^.]{0,40}(excedid|superad|agotad)|(excedid|superad)\\w*[^.]{0,30}(cuota|quota)|sin espacio",
      "casella[^.]{0,40}piena|superat\\w*[^.]{0,20}quota|spazio[^.]{0,40}(esaurito|insufficiente)|quota[^.]{0,20}superata",
      "caixa[^.]{0,60}(cheia|lotada)|(cota|quota)[^.]{0,30}(excedida|ultrapassada)",
      "(mailbox|postvak|postbus|brievenbus)[^.]{0,40}\\bvol\\b|quotum[^.]{0,30}overschreden",
      "skrzynk\\S*[^.]{0,60}(pełna|przepełnion|zapełnion)|przekroczon\\S*[^.]{0,40}(limit|pojemno|quot)",
      "(posta|gelen) kutusu[^.]{0,60}dol|kota\\S*[^.]{0,40}(aşıl|dol)",
      "ящик\\S*[^.]{0,60}(переполнен|заполнен)|квот\\S*[^.]{0,30}превыш|превыш\\S*[^.]{0,30}квот|(нет|закончил\\S*|недостаточно) (свободного )?мест",
      "скриньк\\S*[^.]{0,60}(переповнен|заповнен)|квот\\S*[^.]{0,30}перевищ|перевищ\\S*[^.]{0,30}квот",
      "schránk\\S*[^.]{0,40}(plná|přeplněn)|(brevlåda|inkorg)\\S*[^.]{0,40}\\bfull",
      "メールボックス.{0,30}(いっぱい|容量|一杯)|容量.{0,15}超|(邮箱|信箱|郵箱).{0,15}(已?满|已?滿)|(容量|空间|空間).{0,12}(不足|超|已满|已滿)",
    ],
  },
  {
    sort: "too large",
    says: SURE,
    lines: [
      "(message|mail|e-?mail|size|attachment|content)\\b[^.]{0,60}too (large|big)",
      "(message|mail|size|attachment)\\b[^.]{0,60}exceed\\w*[^.]{0,60}(size|limit|maximum)|exceeds? (the )?(fixed |maximum |max )?(message )?size",
      "(message|maximum|max|fixed) size (limit|exceed)|size limit exceeded|message size",
      "(nachricht|mail)[^.]{0,60}zu groß|größe[^.]{0,40}(überschr|zulässig)|trop (volumineux|gros|grand|lourd)|dépasse[^.]{0,40}taille|taille[^.]{0,40}dépasse",
      "demasiado grande|(excede|supera)[^.]{0,40}(tamaño|límite)|troppo grande|supera[^.]{0,40}dimension|muito grande|excede[^.]{0,40}tamanho",
      "bericht[^.]{0,40}te groot|zbyt duż|przekracza[^.]{0,40}rozmiar|çok büyük|boyut\\S*[^.]{0,30}aş",
      "слишком больш|превыша\\S*[^.]{0,40}размер|размер\\S*[^.]{0,40}превыша|розмір\\S*[^.]{0,40}перевищ|завелик|перевищу\\S*[^.]{0,40}розмір|サイズ.{0,15}(超|大き)|(邮件|郵件|大小).{0,15}(太大|过大|過大|超)",
    ],
  },
  {
    sort: "unwanted",
    says: SURE,
    lines: [
      "\\bspam|\\bjunk\\b|unsolicited|\\bbulk (e?mail|message)|looks like bulk|black ?-?list|block ?-?list|deny ?list|\\b(dns|r)bl\\b|reputation",
      "◊: ?blocked|blocked (by|using|due|because|for|sender)|\\bbanned\\b|sender[^.]{0,40}\\bblocked|(mail|message|ip|address|host|domain|server)\\b[^.]{0,30}(has been |is |was |been )blocked",
      "content[^.]{0,30}(rejected|filter|blocked|refused)|virus|malware|infected|phish|suspicious",
      "unerwünscht|schwarze liste|indésirable|liste noire|pourriel|no deseado|lista negra|indesiderat|indesejad|ongewenst|niechcian|istenmeyen|нежелательн|спам|небажан|スパム|迷惑メール|垃圾(邮件|郵件)",
    ],
  },
  {
    sort: "policy",
    says: SURE,
    lines: [
      "\\b(spf|dmarc|dkim)\\b|sender policy framework|unauthenticated (e?mail|message|sender)|not authenticated|authentication (is )?(required|failed|needed|credentials)",
      "reverse dns|\\b(r ?dns|ptr)\\b|\\bhelo\\b|\\behlo\\b",
      "(unable|not (permitted|allowed|authori[sz]ed)) to relay|relay(ing)?\\b[^.]{0,30}(denied|not (permitted|allowed)|prohibited|disabled|forbidden)|rcpthosts|we do not relay|open relay",
      "starttls|(tls|encryption) (is )?required|must (use|issue) (tls|starttls)",
      "not (allowed|authori[sz]ed|permitted|entitled) to (send|post|write|mail|deliver|submit|use)|permission to (send|post|write)|only (accepts?|members|authenticated|internal|approved)\\b|(messages?|mail) only from|only from (its )?(members|people)|restricted (to|group|list|recipient)",
      "(invalid|bad|unknown|forged) sender\\b|sender (address )?(rejected|denied|refused|verif\\w* failed|not (allowed|accepted|verified))|(nicht|kein)\\w* (berechtigt|berechtigung|erlaubnis)|n'est pas autoris|no (está )?autorizad|non autorizzat|não autorizad",
      "(external|outside) (senders|mail|e-?mail)|not (on|in) (the|our|my|its) [^.]{0,30}(list|senders)|\\bmoderated\\b",
      "too many (recipients|hops)|mail loop|loop(s|ing)? (detected|back)|routing loop",
      "sender (address |domain )?must",
      "sender is (not authenticated|unauthenticated)|unauthenticated sender",
    ],
  },
  {
    sort: "unwanted",
    says: HINT,
    lines: ["(?<!account )(?<!mailbox )(?<!user )\\b(blocked|banned)\\b"],
  },
  {
    sort: "policy",
    says: HINT,
    lines: [
      "rate limit|too many (messages|mails|connections)",
      "polic(y|ies)|not allowed|not (authori[sz]ed|permitted|accepted)|access denied|administrative|permission|prohibited|restrict|denied|refused by|security|richtlinie|politique|política|zugriff verweigert|отказано|(not|n't) accept|from outside|политик|polityk|zasad\\S* bezpiecz|beleid|politika|策略|ポリシー",
    ],
  },
  {
    sort: "no domain",
    says: SURE,
    lines: [
      `(host|domain|server|system)( name)?( ${"⌂"}| ${"◊"})?( is| was| does| could| can| has)?[ -]?(not found|unknown|non-?existent|n[o']t exist|not exist|not be found|n't be found|no longer exist|not be resolved)`,
      "indicated no smtp|no such (host|domain)|name or service not known|name service error|unrout(e?able|eable) (mail |address )?domain|nxdomain|unknown (mail )?(host|domain)|illegal host|bad (destination|domain)",
      "no (valid )?(mx|a|dns|mail exchanger?)( or (mx|a))? (record|host|server|for)|null mx|does not (accept|receive) (any )?e?mail|no mail (server|host|exchanger?) (for|found|could)",
      "\\bdns\\b[^.]{0,40}(error|fail|lookup|resol|not found|no (answer|record|such|data))|(?<!address )(lookup|resolve|resolution)[^.]{0,40}(fail|error)|domain (lookup|resolution)",
      "(unable to|can ?not|can't|could ?n[o']t|could not|failed to) (look ?up|resolve|find|locate)[^.]{0,40}(\\bhosts?\\b|domain|mail server|mx|dns|server)",
      "domain\\w*[^.]{0,60}(accepte pas|no (acepta|recibe)|non (accetta|riceve)|nao (aceita|recebe)|nie przyjmuje|nimmt keine)",
      `(unable to|can ?not|could ?n[o']t|could not|failed to) (look ?up|resolve) ${"⌂"}`,
      "domain[^.]{0,40}(expired|not (valid|registered|configured|hosted|recogni[sz]ed|found)|does(n't| not) exist)|(isn't|is not|not) (a )?(valid|registered|real) domain",
      "(domäne|domain|server|host|rechner)\\w*[^.]{0,40}(nicht gefunden|unbekannt|existiert nicht|nicht aufgelöst|gibt es nicht)|kein (mail-?)?server",
      "(domaine|serveur|hôte)[^.]{0,40}(inconnu|introuvable|n'existe pas)|(dominio|servidor)[^.]{0,40}(no existe|desconocid|no (se )?(encontr|pud)|inexistente)",
      "(dominio|server)[^.]{0,40}(sconosciut|non (esiste|trovato)|inesistente)|(domínio|servidor)[^.]{0,40}(não existe|desconhecid|não (foi )?encontrad)|domein[^.]{0,40}(niet gevonden|bestaat niet|onbekend)",
      "(domen\\S*|serwer\\S*)[^.]{0,40}(nie istnieje|nieznan|nie znaleziono)|(alan adı|etki alanı|sunucu)[^.]{0,40}(bulunamadı|mevcut değil|yok)",
      "(домен|сервер|хост)\\S*[^.]{0,40}(не найден|не существует|неизвест|не знайден|не існує|невідом)|ドメイン.{0,20}(存在しません|見つかりません)|(域名|网域|網域).{0,12}(不存在|无法|無法|未找到)",
    ],
  },
  {
    sort: "no mailbox",
    says: SURE,
    lines: [
      "mailbox name not allowed|no such (user|recipient|mailbox|mail box|person|address|account|addressee|local|customer|alias|name|email)|no (mailbox|user|account|recipient)s? (here|by|with|named|found|called)|nobody[^.]{0,40}here",
      "(user|recipient|mailbox|mail box|account|address|addressee|person|alias|customer|inbox)\\b[^.]{0,60}\\b(unknown|not known|not found|n[o']t exist|not exist|non-?existent|not listed|not recogni[sz]ed|unrecogni[sz]ed|invalid|not valid|undeliverable)",
      "(user|recipient|mailbox|mail box|account|address|addressee|person|inbox|employee|member)\\b[^.]{0,60}\\b(no longer|deactivated|disabled|inactive|not active|suspended|closed|deleted|removed|terminated|expired|discontinued|retired|abandoned|locked|left)\\b",
      "(unknown|invalid|bad|nonexistent|non-existent|undeliverable|inactive|disabled) (to )?(user|recipient|address|local|mailbox|account|destination mailbox|email)|not listed in|user (is )?un?known",
      "(not|no|isn't) (a |an )?(valid|such|known|active|local) (recipient|mailbox|user|address|account|email|here)|doesn't have an? [^.]{0,40}account|not our customer",
      "(unable to|can ?not|can't|could ?n[o']t|could not|failed to) (find|locate|verify|look ?up)[^.]{0,40}(user|recipient|mailbox|address|account|you were trying)|wasn't found|was not found( at)?|couldn't be found",
      "(benutzer|empfänger|postfach|adresse|konto|anwender|nutzer|teilnehmer)\\w*[^.]{0,60}(unbekannt|existiert nicht|nicht (gefunden|vorhanden|bekannt|gültig|mehr)|ungültig|gesperrt|deaktiviert|gelöscht|gibt es nicht)|unbekannte\\w? (benutzer|empfänger|adresse|nutzer)|kein (postfach|benutzer|empfänger|konto)",
      "(utilisateur|destinataire|boîte|adresse|compte)\\w*[^.]{0,60}(inconnu|introuvable|n'existe (pas|plus)|invalide|désactivé|fermé|supprimé|inexistant|n'est plus)|(utilisateur|destinataire|adresse) inconnue?",
      "(usuario|destinatario|buzón|dirección|cuenta)\\w*[^.]{0,60}(desconocid|no es válid|no existe|no (ha sido |fue |se )?encontr|inválid|no válid|inexistente|desactivad|cerrad|deshabilitad|eliminad)",
      "(utente|destinatario|casella|indirizzo|account)\\w*[^.]{0,60}(sconosciut|non esiste|non (è stat[oa] )?trovat|inesistente|disabilitat|disattivat|chius|non valid|eliminat)",
      "(usuário|utilizador|destinatário|caixa|endereço|conta)\\w*[^.]{0,60}(desconhecid|não existe|não (foi )?encontrad|inválid|inexistente|desativad|desactivad|encerrad|removid)",
      "(gebruiker|ontvanger|geadresseerde|postvak|mailbox|adres|account)\\w*[^.]{0,60}(onbekend|bestaat niet|niet gevonden|ongeldig|opgeheven|uitgeschakeld|niet meer)|onbekende (gebruiker|ontvanger)",
      "(użytkownik|odbiorc|adresat|skrzynk|adres|konto)\\w*[^.]{0,60}(nieznan|nie istnieje|nie znaleziono|nieprawidłow|usunięt|zablokowan|nieaktywn|wyłączon)|nieznan\\w+ (użytkownik|odbiorc|adres)|nie ma takie\\w+ (użytkownik|adres|skrzynk|konta)",
      "(kullanıcı|alıcı|posta kutusu|adres|hesap)\\w*[^.]{0,60}(bulunamadı|bilinmiyor|bilinmeyen|mevcut değil|geçersiz|devre dışı|kapatıl|silin|yok)|böyle bir (kullanıcı|adres|hesap)",
      "(пользовател|получател|адресат|ящик|адрес|учетн\\S* запис|аккаунт)\\S*[^.]{0,60}(не (найден|существует|зарегистрирован)|неизвест|недействит|отключен|удален|заблокирован)|(нет|неизвестн\\S*) (такого )?(пользовател|получател|адрес|ящик)",
      "(користувач|одержувач|отримувач|адресат|скриньк|адрес)\\S*[^.]{0,60}(не (знайден|існує|зареєстрован)|невідом|недійсн|вимкнен|видален)|нема\\S* такого|невідом\\S* (користувач|одержувач|отримувач|адрес)|нет такого|неизвестн\\S* получател",
      "(uživatel|příjemce|schránka|adresa|účet)\\w*[^.]{0,60}(neznám|neexistuje|nenalezen|neplatn|zrušen)|(användare|mottagare|brevlåda|adress|konto)\\w*[^.]{0,60}(okänd|finns inte|hittades inte|ogiltig|avslutat)",
      "(ユーザー?|宛先|受信者|メールアドレス|アカウント|宛て先).{0,25}(見つかりません|存在しません|存在しない|不明|無効)|(用户|用戶|收件人|邮箱|郵箱|地址|账户|帐户|帳戶|帐号).{0,15}(不存在|未找到|无效|無效|未知|已停用|被禁用)",
    ],
  },
  {
    sort: "no mailbox",
    says: HINT,
    lines: [
      "unrout(e?able|eable) address(?! domain)",
      "(recipient|address|user)( address)? (was |is )?(rejected|refused)|mailbox (is )?(unavailable|not available)|delivery to the following recipients? failed permanently",
    ],
  },
  {
    sort: "temporary",
    says: SOMETHING,
    lines: ["load (is )?too high|(system|server|host) (is )?(too )?busy"],
  },
  {
    sort: "temporary",
    says: HINT,
    lines: [
      "try again|gr[ae]y ?-?list|delayed|deferred|connection (lost|dropped)|\\blater\\b|system (busy|not accepting)|overload|not available at this time|service (is )?unavailable|resources|throttl",
      "später|plus tard|más tarde|più tardi|mais tarde|później|daha sonra|позже|пізніше|稍后|稍後",
    ],
  },
];

/** What is known of phrases: the sort, how much it says, and the pattern over plain words. */
export const KNOWN_PHRASES: readonly { sort: BounceSort; says: number; pattern: RegExp }[] =
  PHRASES.flatMap(({ sort, says, lines }) =>
    lines.map((line) => ({ sort, says, pattern: new RegExp(foldedPattern(line), "u") })),
  );
