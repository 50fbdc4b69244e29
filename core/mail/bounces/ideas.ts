import { foldedWords } from "./plainWords";

/**
 * The words by which mail systems of many languages speak of an idea, as parts of patterns. A language is added word by word,
 * each to its idea; `meaningOf` combines them. Where a language joins words, its stems are found inside them.
 */
const IDEAS = {
  /** Who receives: the person, their address or their mailbox. */
  box: [
    "mail ?box|inbox|\\buser|recipient|address|account|\\balias|customer|employee|\\bperson\\b",
    "postfach|benutzer|empfanger|empfaenger|adressat|\\bkonto|nutzer|teilnehmer|\\banwender",
    "utilisateur|destinataire|boite|\\bcompte|adresse",
    "usuario|destinatari[oa]|buzon|direccion|\\bcuenta|casilla|\\bbandeja",
    "\\butente|casella|indirizzo|\\bcaixa|endereco|\\bconta\\b|utilizador",
    "gebruiker|ontvanger|geadresseerde|postvak|adres|postbus|brievenbus",
    "uzytkowni|odbiorc|skrzyn(k|e)|\\bkonta\\b|kullanici|alici|posta kutusu|\\bhesa[pb]",
    "пользовател|получател|адрес|ящик|учетн|аккаунт|абонент|користувач|одержувач|отримувач|скриньк",
    "uzivatel|prijemce|schrank|\\bucet\\b|pouzivatel|korisnik|primatelj|uporabnik|потребител|корисник",
    "anvandar|mottagar|brevlada|inkorg|\\bbruger|modtager|\\bbruker|mottaker|postkasse|postboks",
    "kayttaj|vastaanottaj|postilaatik|felhasznalo|cimzett|postafiok|utilizator|cutia postala|casuta",
    "χρηστη|παραληπτη|λογαριασμ|διευθυνση|γραμματοκιβωτι",
    "用户|用戶|收件人|收件者|邮箱|郵箱|信箱|地址|账户|帐户|帳戶|帐号|账号|帳號",
    "ユーザ|宛先|受信者|アドレス|アカウント|メールボックス|受信箱|사용자|수신자|사서함|메일함|계정|주소",
    "المستخدم|المستلم|المستقبل|صندوق|الحساب|العنوان|משתמש|תיבת|נמען|חשבון|כתובת",
    "nguoi nhan|nguoi dung|hop thu|tai khoan|dia chi|pengguna|penerima|kotak surat|\\bakun\\b|alamat",
    "\\bpupil|\\bstudent|\\bmember|subscriber|(?<!de )messagerie|correspondant|correspondent|casilla|rubrica|postadresse|e-?post(adress|lada)|\\bпочт\\S* (ящик|скриньк)|обликов|обліков",
    "posteingang|mailadresse|mailkonto|posta in arrivo|bandeja|caixa de entrada|skrzynce|gelen kutusu|входящ|вхідн",
    "\\brcpt\\b|e-?mail (foi|fue|wurde|was|has been|est|ist)\\b",
  ],
  /** The domain behind the @. */
  domain: [
    "domain|domane|dominio|domein|\\bdomen|alan adi|etki alani|домен|domena|域名|网域|網域|ドメイン|도메인|النطاق|ten mien|הדומיין",
    "\\bdns\\b|nom d'hote|nome host|maschine|\\bmachine|mail exchange|\\bname does not resolve|\\bmx\\b",
    "\\bhost ?name|rechnername|nome (do )?host|mail exchanger",
  ],
  /** The machine that would take the mail. */
  server: [
    "\\bserver|mailserver|\\bhost\\b|rechner|serveur|servidor|serwer|sunucu|сервер|хост|服务器|伺服器|サーバ|서버|الخادم|may chu|peladen",
  ],
  /** Who writes. */
  sender: [
    "sender|absender|expediteur|remitente|mittente|remetente|afzender|nadawc|gonderen|gonderici|отправител|видправник|відправник|odesilatel|avsandar|afsender|avsender|lahettaj|felado|expeditor|αποστολε|发件人|寄件人|寄件者|差出人|送信者|발신자|보낸 사람|المرسل|nguoi gui|pengirim",
    "sending (address|domain|server|host|ip|system)|\\bfrom address|return address|\\boriginator|envoyeur|mittent|remitent",
  ],
  /** Our own machine, as the other side sees it. */
  us: [
    "\\bip\\b|\\byour (server|host|network|ip|mail server)|ihr(e|em)? (server|mailserver|ip)|votre (serveur|adresse ip)|(su|tu|il tuo|seu|sua) (servidor|server|ip)|twoj|ваш (сервер|ip)|您的|貴社",
  ],
  message: [
    "nachricht|\\b(e-?)?mails?\\b|message|attachment|anhang|mensaje|messaggio|mensagem|courriel|bericht|wiadomosc|ileti|сообщени|письм|повидомлен|повідомлен|\\bлист|zprav|meddelande|besked|melding|viesti|uzenet|mesaj|μηνυμα|邮件|郵件|メール|メッセージ|메일|메시지|الرسالة|tin nhan|\\bthu\\b|pesan",
  ],
  /** That somebody or something isn't there, or not any more. */
  absent: [
    "unknown|not found|(does ?n['o]?t|do not|doesnt|no longer) exist|non-?existent|\\bnot (known|found|active|valid|in (the|our|this|any))|\\binvalid|inactiv|disabled|deactivated|frozen|misspelled|\\bdead\\b|suspended|terminated|not resolve|has no|not registered",
    "unbekannt|existiert nicht|nicht (\\S+ )?(gefunden|vorhanden|bekannt|gultig|aufgelost|mehr)|ungultig|deaktiviert|geloscht|gibt es (hier )?nicht|geschlossen|inaktiv|gekundigt|abgemeldet|nicht aktiv|\\bkeine? (mailbox|postfach|benutzer|empfanger|nutzer|konto|adresse|mailserver|domain)",
    "inconnu|introuvable|n'existe|n'est (pas connu|plus)|invalide|desactive|ferme\\b|fermee|supprime|inexistant|non trouve|pas (ete )?trouve|archive|suspendu|cloture|impossible de (trouver|resoudre)|aucun (utilisateur|compte)",
    "desconocid|no existe|no (\\S+ ){0,2}encontr|invalid[oa]|no (\\S+ )?valid[oa]|inexistente|desactivad|cerrad[oa]|deshabilitad|eliminad|suspendid|de baja",
    "sconosciut|non esiste|non (\\S+ )?trovat|disabilitat|disattivat|chius[oa]|non valid|non attiv|sospes|impossibile trovare",
    "desconhecid|nao existe|nao (\\S+ )?encontrad|desativad|encerrad|removid|inativ|suspens[oa]|nao foi possivel encontrar",
    "onbekend|bestaat niet|niet (\\S+ ){0,2}gevonden|ongeldig|opgeheven|uitgeschakeld|niet meer|niet (\\S+ )?in gebruik|verwijderd",
    "nieznan|nie istnieje|nie znaleziono|nie mozna odnalezc|nieprawidlow|usuniet|nieaktywn|wylaczon|nie ma tak|zamkniet|zawieszon",
    "bulunamadi|bulunamiyor|bilinmiyor|bilinmeyen|mevcut degil|gecersiz|devre disi|kapatil|silin(di|mis)|\\byok\\b",
    "не (был[аи]? )?наиден|не удалось наити|не существует|\\bнет\\b|неизвест|недеиствит|отключен|удален|не зарегистр|закрыт|неактив",
    "не знаиден|не вдалося знаити|не існує|не існуе|невідом|недіисн|вимкнен|видален|нема\\S* так|не зареєстр|не зареестр",
    "neznam|neexistuj|nenalezen|neplatn|zrusen|ne postoji|nepoznat|не постои|не съществува|непознат|neobstaja|ne obstaja",
    "okand|finns inte|hittades inte|ogiltig|avslutat|findes ikke|ukendt|ugyldig|finnes ikke|ukjent|ei ole|ei loy|tuntematon",
    "nem talalhato|nem letezik|ismeretlen|ervenytelen|nu exista|necunoscut|nu a fost gasit|δεν υπαρχει|αγνωστ|δεν βρεθηκε",
    "不存在|未找到|找不到|无效|無效|未知|停用|禁用|無此|无此|查无|查無|存在しない|存在しません|見つかりません|不明|無効",
    "존재하지|찾을 수 없|알 수 없|غير موجود|غير معروف|لا يوجد|לא קיים|לא נמצא|לא ידוע|khong ton tai|khong tim thay|khong hop le|tidak ditemukan|tidak ada|tidak dikenal|tidak valid",
    "\\b(no|not|nobody|none)\\b[^.]{0,20}(such|called|named|our (user|customer|address)|one of our|registered|have an?|belong)|undefined|retired|discontinued|\\bcan ?not be (found|resolved)|has left|does not resolve|stillgelegt|nicht vergeben|kennen wir|lasst sich nicht auflosen|\\bkeinen? (eintrag|mailserver|mx)|nicht auflosbar|niemand",
    "\\bpersonne\\b|pas de compte|errone|aucune? |no (hay|corresponde|tiene cuenta|se puede (resolver|encontrar))|ning(un|una) |nessun|non e presente|non puo essere (risolto|trovato)|nao ha|nenhum|niet bekend|geen (postvak|gebruiker|account|mailserver)|er is geen|nie figuruje|brak takie|\\bkimse|ingen (sadan|slik|bruker|bruger|anvandar)|eiva?t? ole|nincs|neni (znam|nalezen)|没有此|沒有此|已停用|使われておりません|등록되지|אינה קיימת|אינו קיים|לא רשום",
    "(isn't|is not|not) one of|n[o']t able to (find|locate)|doesn't match|no (match|record|entry|trace) (for|of|with)|no longer (valid|here|with|work|exist|active|in use|available|receiv)|never existed|(isn't|is not|not|un)[ -]?(assigned|allocated|deliverable|in use|hosted|served|configured|enabled|provisioned)|nicht (registriert|zugeordnet|hinterlegt|erfasst|eingerichtet|ermittelt)|abgeschaltet|erloschen|no (esta |se encuentra )?(registrad|activ)|nao (esta )?(registad|registrad|cadastrad)|non (e )?(registrat|censit)|pas enregistre|niet geregistreerd|niezarejestrowan|kayitli degil|не зарегистрирован|не зареєстрован",
    "unresolv|unresolvable|deprovision|d(o|oe)s'?n'?t'? ?exist|desativad|zlikwidowan|\\bparked\\b|n'a pas pu etre (resolu|trouve)|dada de baja|abgemeldet|works? here any ?more|no trabaja",
    "odnalezion|bulunm(uyor|adi|amakta)|у нас (нет|немае)|(нет|немае) такого",
    "\\b(removed|deleted|erased|vanished|withdrawn|dissolved|cancell?ed|vacant|orphaned|ceased|defunct|obsolete|mistyped|incorrect|unrecogni[sz]ed|bogus)\\b|non-?existing|(can ?not|can't|could ?n[o']t|unable to|failed to) (be )?(resolved?|found?|locate|look ?up)",
    "nicht (\\S+ ){0,3}(gefunden|vorhanden|registriert|aufgelost)|aufgelost|entfernt|fehlerhaft|falsch|beendet|ausgeschieden|inexistent|nichtexist|loschung",
    "radie|resilie|incorrecte?\\b|inexact|n'est pas (valable|attribue|reconnu)|a quitte|plus (chez|valable|acti|utilise)|(n'a )?pas (\\S+ ){0,2}trouve|desinscri",
    "borrad[oa]|cancelad[oa]|incorrect[oa]|equivocad|erron|caducad|expirad|ya no (trabaja|esta|pertenece|existe|se usa)|anulad|no (\\S+ ){0,3}(localizad|hallad|encontrad)",
    "cancellat[oa]|rimoss|errat[oa]|scadut|cessat|dismess|non (\\S+ ){0,3}(trovat|registrat)|non (piu|fa piu|risulta)|inattiv|soppress",
    "apagad|excluid|incorret|errad[oa]|ja nao|nao (\\S+ ){0,3}(consta|localizad|encontrad)|verlopen|opgezegd|gesloten|vervallen|onjuist|vertrokken|gestopt",
    "skasowan|bledn|niepoprawn|wygasl|odszedl|nie ma (juz )?(takie|u nas)|nie wystepuje|hatali|yanlis|gecerli degil|kayitli degil|ayril(di|mis)|iptal|pasif|tanimsiz|taninm",
    "ошибоч|неправильн|неверн|больше не|не обслуж|отсутств|уволен|уволил|аннулир|не (значится|числится)|помилков|невірн|більше не|не обслугов|відсутн|звільн|закрит|анульован|не значиться",
    "smazan|chybn|nespravn|(jiz|uz) n(e|en)|obrisan|izbrisan|borttag|felaktig|upphor|inte (langre|giltig|kand|registrer)|saknas|slettet|nedlagt|forkert|lukket|ikke (laengere|lenger|registrer|gyldig|kendt|kjent|funnet|fundet|aktiv|i bruk)|poistettu|virheell|suljettu|lakkautettu|ei (enaa|kaytossa)",
    "megszunt|torol(t|ve)|hibas|mar nem|sters\\b|dezactivat|inchis|gresit|διαγραφ|λανθασμεν|ακυρ|ανενεργ|δεν (υπαρχ|βρεθ|ισχυ)",
    "注销|註銷|已删除|已刪除|已关闭|已關閉|错误|錯誤|不正确|失效|沒有這個|没有这个|無い|ありません|削除|退職|閉鎖|廃止|登録されて|없는|없습니다|삭제|잘못|탈퇴|해지|유효하지",
    "خاطئ|محذوف|معطل|مغلق|غير (صالح|صحيح|مسجل|فعال)|لم يتم العثور|لا وجود|נמחק|שגוי|לא (תקין|פעיל|מוכר)|נסגר|khong (con|dung|dang ky)|da (xoa|dong)|sudah (tidak|dihapus)|dihapus|dinonaktifkan|tidak (aktif|terdaftar)",
    "\\bnot (\\S+ ){0,3}(known|found|active|valid|registered|listed|recogni[sz]ed|exist|hosted|served|assigned|in use|belong|match|configured|defined|provisioned)\\b|\\bno (\\S+ ){0,2}(users?|mailbox|account|record|recipients?|customers?|entry|person|match|subscribers?|inbox|student|employee|member|one|object)\\b|(switched|turned) off|taken down|\\bgone\\b",
    "\\bkeine?[nmrs]? (\\S+ ){0,2}(benutzer|empfanger|postfach|konto|eintrag|teilnehmer|person)|aucun\\S* (\\S+ )?(utilisateur|compte|destinataire|boite)|ningun\\S* (\\S+ )?(usuario|cuenta|buzon|destinatario)|nessun\\S* (\\S+ )?(utente|casella|destinatario)|nenhum\\S* (\\S+ )?(utilizador|usuario|conta|destinatario)|geen (\\S+ )?(gebruiker|ontvanger|postvak|account)|brak (\\S+ )?(uzytkownik|odbiorc|skrzynk|kont)|(нет|немає|немае) (\\S+ )?(пользоват|получат|ящик|користув|одержув|отримув|скриньк)|(kullanici|alici|hesap|adres)\\S* (\\S+ )?yok",
    "\\bnot in \\S+",
  ],
  /** That it can't take mail, which may be meant for now or for good. */
  unavailable: [
    "not available|unavailable|nicht verfugbar|nicht erreichbar|non disponible|no disponible|non disponibile|nao disponivel|niet beschikbaar|niedostepn|недоступ|kullanilamiyor|neni k dispozici|nedostupn|inte tillganglig|ikke tilgaengelig|利用できません|不可用",
  ],
  /** That it may work later, or that nothing could be asked. */
  forNow: [
    "temporar|vorubergehend|derzeit|momentan|provisoire|momentanement|actuellement|temporal|momento|temporan|moment|tijdelijk|tymczasow|chwilowo|gecici|su anda|временн|тимчасов|docasn|tillfallig|midlertidig|一時的|暂时|暫時",
    "unreachable|no route|time[ds]? ?-?out|lost connection|connection (refused|reset|closed)|antwortet nicht|keine antwort|zeituberschreitung|ne repond pas|pas de reponse|delai (depasse|d'attente)|no responde|tiempo de espera|non risponde|nao responde|reageert niet|antwoordt niet|nie odpowiada|yanit ver|не отвечает|не відповідає|neodpovida|svarar inte|svarer ikke|ei vastaa|没有响应|無回應|応答がありません|応答しません",
    "\\b(did|does|is|has|was) not (\\S+ )?(answer|respond)|never (answer|respond)|not (answering|responding)|no (answer|response) (from|within)|said nothing|\\bbusy\\b|overloaded|handshake|hung up|unresponsive|connection (was |is )?(refused|dropped|aborted|broken|failed|closed|reset|lost)|(not|unable to|failed to) connect",
    "nicht (\\S+ )?(geantwortet|antwortet)|verbindung\\S* (\\S+ ){0,2}(abgelehnt|abgebrochen|getrennt|verloren|unterbrochen|fehlgeschlagen|verweigert)|ausgelastet|uberlastet|connexion (\\S+ )?(refusee|interrompue|perdue|impossible|fermee)|\\bn'a (pas |rien )?repond|occupee?\\b|surcharge",
    "conexion (\\S+ )?(rechazada|perdida|interrumpida|cerrada)|\\bocupado|sobrecarg|no (ha )?respond|connessione (\\S+ )?(rifiutata|persa|interrotta|chiusa)|\\boccupato|sovraccaric|non (ha )?rispo|(conexao|ligacao) (\\S+ )?(recusada|perdida|interrompida)|sobrecarreg",
    "verbinding (\\S+ )?(geweigerd|verbroken|verloren)|overbelast|polaczeni\\S* (\\S+ )?(odrzucon|zerwan|utracon|przerwan)|przeciazon|nie odpowi|baglanti\\S* (\\S+ )?(reddedil|kesil|koptu|kurulamad)|mesgul",
    "соединени\\S* (\\S+ )?(отклонен|разорван|потерян|прерван|закрыт)|перегруж|єднан\\S* (\\S+ )?(відхилен|розірван|втрачен|перерван)|anslutning\\S* (\\S+ ){0,2}(brots|avvisad|nekad)|forbindelse\\S* (\\S+ )?(afvist|brutt|avbrutt|afbrudt)|连接(被拒绝|超时|断开|失败)|繁忙|接続(が|を)?(拒否|切断|失敗|できません)|연결(이)? (거부|끊|실패)",
    "delai (\\S+ ){0,2}depasse",
  ],
  /** That nothing more goes into it. */
  full: [
    "\\bfull\\b|\\bvoll|uberfullt|pleine?\\b|saturee?|llen[oa]|complet[oa]\\b|piena|cheia|lotada|\\bvol\\b|peln[aey]\\b|przepelnion|zapelnion|\\bdolu|dolmus|doldu|переполнен|заполнен|\\bполон|переповнен|заповнен|\\bplna\\b|preplnen|\\bfuld|taynna|megtelt|\\bplina?\\b|γεματ|已满|已滿|满了|いっぱい|一杯|가득|ممتلئ|מלאה|\\bday\\b|penuh",
    "gefullt|randvoll|no more room|at 100|taynna|tele\\b|fullsatt|plnou",
    "esaurit|satura|repleta|sature",
    "at capacity|maxed out|overflow|remplie?\\b|\\bcomble|debord|colm[oa]\\b|riempit|volgelopen|zapchan|a tope|가득|מלאה?",
  ],
  /** The room that a mailbox has. */
  room: [
    "quota|kvot|kontingent|speicher|(?<!system )storage|\\bspace|espace|espacio|almacenamiento|cuota|spazio|\\bcota\\b|armazenamento|quotum|opslag|pojemnosc|miejsc|\\bkota|квот|\\bмест[оа]|місц|tarhely|容量|空间|空間|용량|المساحة|dung luong|kapasit",
    "\\broom\\b|platz|\\bplace\\b|espaco|ruimte|\\byer\\b|\\bmisto\\b|plads|plass|utrymme|\\btila\\b|helyet|\\bhely\\b|\\bspatiu|χωρος|\\bмісця|저장|מקום|ذاكرة",
    "capacity|capacite|capacidad|capacita|capacidade|kapazitat|capaciteit",
  ],
  usedUp: [
    "exceed|uberschritten|uberschreitet|erschopft|erreicht|nicht (genugend|genug|ausreichend)|zu wenig|depasse|atteint|insuffisant|epuise|excedid|superad|agotad|insuficiente|superat|esaurit|insufficient|ultrapassad|esgotad|atingid|overschreden|bereikt|onvoldoende|przekroczon|\\bbrak|wyczerpan|asil|\\bdol(du|mus)|yetersiz|превыш|закончил|недостаточн|\\bнет\\b|исчерпан|перевищ|вичерпан|недостатн|нема|prekrocen|overskrid|overskred|ylitt|不足|超|초과|تجاوز|vuot|melebihi|\\bout of\\b",
    "used up|\\bno more\\b|\\bno (space|room|storage)|\\bover (its|their|the)|ausgeschopft|\\bkein(en)? |\\bplus (de|d')|\\baucun espace|no queda|\\bsin |alcanzad|no hay|non c'e|\\bsem |nao ha|\\bgeen |\\bna[o]? ma |kalmad|neni |ikke mere|ikke mer |inte mer|slut\\b|ei ole|nincs|nu mai|δεν |不够|満|없",
    "(has|have) used (all|up)",
    "\\b(hit|reached|maxed|depleted|exhausted|consumed|overdrawn)\\b|aufgebraucht|ausgereizt|belegt|raggiunt|terminat|finit[oa]\\b|sforat|ating(iu|e)|estour|preenchid|alcanz|sobrepas|rebas|copad|remplie?\\b|verbruikt",
    "osiagn|wykorzystan|zajet|ulas(ti|mis)|tuken|\\bbit(ti|mis)|достиг|израсход|занят|досягн|заинят|dosazen|vycerpan|naplnen|uppnatt|opbrugt|brukt opp|tayttynyt|loppu|betelt|elfogyott|tullep|atins|depasit|epuizat|εξαντλη|υπερβ",
    "用完|用尽|耗尽|达到|達到|達して|使い切|超え|부족|찼|نفد|استنف|بلغ|חרג|נגמר",
    "\\bsuper[oa]\\b|supero|too (much|many)",
    "\\bexced(e|eu|io|en|em)\\b",
  ],
  /** That there is none of something, or not enough. */
  none: [
    "\\b(no|not|without|lacks?|little|zero|none)\\b|n't\\b|\\bran out\\b|\\brun out\\b",
    "\\b(keine?[nmrs]?|ohne|wenig)\\b|\\b(pas|plus|sans|aucune?|manque)\\b|\\b(no|sin|falta|poco)\\b|\\b(non|senza|poco)\\b|\\b(nao|sem|pouco)\\b|\\b(niet|geen|zonder|weinig)\\b",
    "\\b(nie|brak|bez|braku|malo)\\b|\\b(yok|degil|kalmadi|yetersiz|yetmiyor)\\b|\\b(не|нет|без|мало|нету)\\b|\\b(нi|немає|немае|бракує|бракуе|замало)\\b|\\b(neni|nema|zadn\\S*|malo)\\b",
    "\\b(inte|ingen|inget|utan|saknas|ikke|intet|uden|uten|ei|eivat|nincs|nem|nu|fara|lipsa|δεν|χωρις)\\b|没有|沒有|没|無|无|ありません|ない|없|לא|אין|לאו|لا|ليس|khong|tidak",
  ],
  /** That something is open to a few alone. */
  only: [
    "\\b(only|solely|exclusively)\\b|\\b(nur|ausschliesslich|lediglich)\\b|\\b(seulement|uniquement|exclusivement|seuls?|seules?|que des|reserve[es]*)\\b|\\b(solo|solamente|unicamente|exclusivamente)\\b|\\b(soltanto|solamente|riservat[oa])\\b|\\b(somente|apenas|so)\\b|\\b(alleen|slechts|uitsluitend)\\b|\\b(tylko|wylacznie|jedynie)\\b|\\b(yalniz\\S*|sadece)\\b|\\b(только|исключительно|лише|тільки|тiльки|виключно)\\b|\\b(pouze|jenom|jen|iba|samo|endast|bara|kun|vain|csak|doar|numai|μονο)\\b|只|仅|僅|のみ|だけ|만 |فقط|רק|chi (co|nhan)|hanya",
  ],
  /** What may be open to a few alone: writing, and those who write. */
  writing: [
    "\\b(write|writers?|post|send|senders?|members?|known|approved|trusted|contacts|accepts?|takes?|receives?)\\b|schreiben|senden|mitglied|absender|bekannt|freigegeben|nimmt|ecrire|envoyer|membres|expediteurs|accepte|recoi|escribir|enviar|miembros|remitentes|acepta|recibe|scrivere|inviare|membri|mittenti|accetta|riceve|escrever|membros|remetentes|aceita|recebe|schrijven|sturen|leden|afzenders|ontvangt|pisac|wysylac|czlonk|nadawc|przyjmuje|yazabilir|gonderebilir|uyeler|gonderici|писать|отправлять|участник|отправител|принима|писати|надсилати|учасник|відправник|приима|psat|posilat|clenove|odesilatel|skriva|skicka|medlemmar|skrive|sende|medlemmer|kirjoittaa|jasen|irhat|tagok|membrii|成员|成員|メンバー|会員|구성원|أعضاء|חברים",
  ],
  limit: [
    "limit|grenze|plafond|maximum|limite|granic|sinir|предел|лимит|межу|ліміт|上限|限额|限制|한도|الحد",
  ],
  size: [
    "\\d ?([mkg]i?b|(mega|kilo)?bytes|мб)(?![a-z])|\\bsize|\\blength|grosse|taille|tamano|dimension|tamanho|grootte|rozmiar|boyut|размер|розмір|velikost|storlek|storrelse|大小|サイズ|크기|الحجم|ukuran",
    "umfang|tamano|dimensioni|wielkosc",
  ],
  tooBig: [
    "too (large|big)|(message|mail) (is )?too long|zu gro(ss|b)|trop (volumineux|gros|grand|lourd)|(demasiado|muy) (grande|pesado)|troppo grande|muito grande|te groot|(zbyt|za) duz|cok buyuk|слишком больш|завелик|занадто велик|prilis velk|for stor|liian suuri|tul nagy|prea mare|过大|過大|太大|大きすぎ|너무 (큽|큰|커)|كبيرة جدا|qua lon|terlalu besar",
    "gro(ss|b)er als|umfangreich|larger than|bigger than|greater than|longer than|plus (gros|grand|lourd)|mas grande|piu grande|eccessiv|maior que|groter dan|wieksz[ay] niz|слишком велик|бiльш\\S* за|більш\\S* за|daha buyuk|storre (an|end|enn)|permitid[oa] \\S* ?tamano",
    "more than (this|our|the|their|its) \\S+ (takes|accepts|allows|can take)",
  ],
  overSize: [
    "exceed|uberschr|ubersteigt|depasse|excede|supera|overschrijdt|przekracza|\\basi?yor|\\basti|превыша|перевищу|prekra|overskrid|overstiger|超|초과|تجاوز|melebihi",
    "ultrapass|superior|eccede|groesser|\\b(is|are|was) over|over (our|the|its) (limit|maximum)|troppo|oltre|превышен|слишком велик",
  ],
  blocked: [
    "\\bblocked|blockiert|gesperrt|bloque(e|es)?\\b|bloquead|bloccat|geblokkeerd|zablokowan|engellen|заблокирован|заблокован|blokovan|blockerad|blokeret|blokkert|estetty|blocat|已被?(封|阻|拦)|ブロック|차단|محظور|bi chan|diblokir",
    "abgewiesen|sperrung|blockad|\\bbloqu|bloqueio",
  ],
  spam: [
    "spam|sperrliste|schwarze liste|liste noire|lista negra|zwarte lijst|czarn\\S+ list|kara liste|черн\\S+ спис|чорн\\S+ спис|unerwunschte? (mail|e-mail|nachricht|werbung)|indesirable|pourriel|no deseado|indesiderat|indesejad|ongewenst|niechcian|istenmeyen|нежелательн|спам|небажан|nevyzadan|skrappost|roskapost|kereteszemet|levelszemet|スパム|迷惑メール|垃圾|스팸|مزعج|thu rac",
    "\\bblack ?-?list|block ?-?list|deny ?-?list|\\b[a-z]?bl\\b|\\bscam\\b|virus|malware|viren|complaint|phish|(?<!not )listed (at|on|by)|черн\\S+ спис|в списк\\S* блок|czarnej liscie|黑名单|黑名單|ブラックリスト|블랙리스트|القائمة السوداء|cerna listina|blacklist|sort liste|svart lista|svartelist|skrappost|mustalla listalla|feketelist|lista neagra",
    "werbung|reklam|publicidad|publicitaire|pubblicit|propaganda|advertis|рекламн|\\bis listed\\b",
    "list of (bad|blocked|known|suspicious) (senders|hosts|servers|addresses)",
    "\\blixo\\b|malicious|harmful|dangerous|schadlich|schadsoft|malveillant|dangereu|malicios|dannos|pericol|zlosliw|вредонос|шкідлив|zararli|skadlig|skadelig|haitalli|rosszindul|恶意|惡意|不正な|악성|זדוני",
    "(?<!not )listed (at|on|by|in) ⌂",
  ],
  notAllowed: [
    "nicht (berechtigt|erlaubt|zugelassen|gestattet|autorisiert)|keine berechtigung|(n'etes|n'est|n'avez|pas) (pas )?(autoris|le droit|la permission)|non autorise",
    "no (tiene|posee|dispone de) (\\S+ )?(permiso|autoriz)|no (\\S+ )?autorizad|sin (permiso|autoriz)|non (\\S+ )?autorizzat|non (ha|hai|dispone|possiede) \\S*\\s?(permess|autorizz)|nao (tem|possui) (permiss|autoriz)|nao autorizad",
    "geen (toestemming|rechten|toegang)|niet (toegestaan|gemachtigd|bevoegd)|(nie masz|brak|nie posiada\\S*) (uprawnien|pozwolen)|niedozwolon|nie jest uprawnion|izniniz yok|yetki\\S* yok|izin verilm",
    "нет (прав|разрешен)|не имеете|запрещен|не разрешен|немає (прав|дозвол)|немае (прав|дозвол)|заборонен|neni povolen|nemate opravn|inte tillat|inte behorig|ikke (tilladt|tillatt)|ei oikeu|nincs jogosult",
    "没有权限|沒有權限|无权|無權|不允许|不允許|許可されて|権限がありません|권한이 없|غير مسموح|khong duoc phep|tidak diizinkan",
    "\\b(we|this|it|they) only (take|accept)s?|only takes?|takes? mail from|from (staff|members|inside|outside|people) only|(?<!name )not allowed|is not permitted|\\brela(y|is|is-zugriff|yen|ying)\\S* (verweigert|nicht|abgelehnt|refuse|non|denied)|weiterleitung|no se permite|no permitido|non (e )?(consentit|permess)|inoltro|reenvio|encaminhamento|nao (e )?permitid|retransmi|doorsturen|przekazywanie|пересылк|ретрансляц|пересилан|中继|中継|릴레이",
    "\\bonly \\S+( \\S+)? (may|can|are allowed to) (write|send|post|mail)",
    "\\bdurf(en|t)?( \\S+){0,4} nicht\\b|\\b(can ?not|can't|may not) (write|post|send) to",
    "(need|have|must|please|required?)( \\S+){0,2} (authenticate|log ?in|sign ?in)|authenticate (before|first)|\\banmelden\\b|s'authentifier|autenticarse|autenticar-se|uwierzyteln|kimlik dogrula|аутентифик|автентифік",
    "\\bdarf nicht|nicht( \\S+){0,5} (schreiben|senden)\\b|ne (peut|pouvez)( \\S+)? pas (ecrire|envoyer)|no puede (escribir|enviar)|non puo (scrivere|inviare)|nao pode (escrever|enviar)|mag niet|nie moze(sz)? (pisac|wysylac)|не може(т|те) (писать|отправлять)",
    "(absender|expediteur|remitente|mittente|remetente|afzender|nadawca|отправитель) (\\S+ )?(refus|abgelehnt|rechaz|rifiut|recus|geweigerd|odrzuc|отклон)",
  ],
} as const satisfies Record<string, readonly string[]>;

export type Idea = keyof typeof IDEAS;

/** The edge of a word in any script; the one that patterns know is for Latin letters only. */
const WORD_EDGE = "(?:(?<![\\p{L}\\d])(?=[\\p{L}\\d])|(?<=[\\p{L}\\d])(?![\\p{L}\\d]))";

/** Made when an idea is first looked for: all of them take a fifth of a second, which a program that begins has no use for. */
const patterns = new Map<Idea, RegExp>();

function patternOf(idea: Idea): RegExp {
  const known = patterns.get(idea);
  if (known !== undefined) return known;
  const lines: readonly string[] = IDEAS[idea];
  const made = new RegExp(lines.map(foldedPattern).join("|").replaceAll("\\b", WORD_EDGE), "u");
  patterns.set(idea, made);
  return made;
}

/** Where in a segment of plain words an idea is first spoken of, and where that ends; undefined where it isn't. */
export function spokenOf(idea: Idea, segment: string): { from: number; to: number } | undefined {
  const found = patternOf(idea).exec(segment);
  return found === null ? undefined : { from: found.index, to: found.index + found[0].length };
}

/** A pattern in the form in which plain words are: its letters are folded, and what is escaped stays. */
export function foldedPattern(line: string): string {
  return line.replace(/\\.|[^\\]+/g, (part) => (part.startsWith("\\") ? part : foldedWords(part)));
}
