import type { Language } from "./language";

export const de: Language = {
  code: "de",
  compounds: true,
  concepts: {
    student: `schüler schülerin schülerinnen schülers kind kinder kindes kinds sohn tochter teilnehmer teilnehmerin teilnehmende mitglied mitglieder spieler
      spielerin sportler turner turnerin sänger sängerin lernende lernender zögling jugendliche jugendlicher tänzer musiker schwimmer sus athlet azubi
      eleve anmeldung_von reiter reiterin`,
    guardian: `eltern elternteil elternteils erziehungsberechtigte erziehungsberechtigter erziehungsberechtigten erz_ber erzber eb sorgeberechtigte sorgeberechtigter
      sorgeberechtigten vormund kontakt kontaktperson ansprechpartner ansprechperson bezugsperson betreuer_zuhause erwachsene gesetzlicher_vertreter
      gesetzliche_vertreter vertreter personensorgeberechtigte erwachsener`,
    mother: `mutter mutters mama mutti muttis`,
    father: `vater vaters papa vati`,
    household: `familie familien haushalt`,
    staff: `lehrer lehrerin lehrkraft lehrperson lehrkräfte klassenlehrer klassenlehrerin klassenleitung klassenleiter trainer trainerin übungsleiter übungsleiterin leiter
      leiterin leitung gruppenleiter betreuer betreuerin coach dozent tutor kl klassenlehrkraft pädagoge erzieher erzieherin`,
    emergency: `notfall notfallkontakt`,
    doctor: `arzt ärztin hausarzt kinderarzt krankenkasse`,
    self: `ihr ihre ihren ihrem ihres dein deine mein meine`,
    sibling: `geschwister bruder schwester geschwisterkind`,
    name: `name namen vollständiger_name vor_und_nachname vor_und_zuname`,
    surname: `nachname nachnamen familienname zuname nachn nname`,
    given: `vorname vornamen rufname vorn vname`,
    nickname: `spitzname genannt`,
    prefix: `namenszusatz vorsatzwort adelszusatz`,
    number: `nummer nr schülernummer mitgliedsnummer kennung id kennziffer aktenzeichen ausweisnummer`,
    class: `klasse klassen gruppe gruppen kurs kurse lerngruppe stammgruppe klassenbezeichnung klassenverband kl abteilung kursgruppe stammklasse tutorium
      arbeitsgemeinschaft ag agen kita_gruppe zug`,
    team: `mannschaft mannschaften team teams altersklasse jugend riege kader staffel mannschaftsname`,
    level: `stufe jahrgang jahrgangsstufe klassenstufe schulstufe niveau jgst jg schuljahrgang`,
    site: `standort standorte schule gebäude campus ort_der_schule halle filiale haus zweigstelle schulhaus`,
    email: `email mail e_mail mailadresse emailadresse e_mail_adresse mailanschrift elektronische_post emails mails e_post epost`,
    address: `adresse adressen`,
    phone: `telefon tel handy mobil telefonnummer handynummer mobilnummer festnetz rufnummer mobiltelefon fax natel telefonnr`,
    relation: `beziehung verhältnis verwandtschaft verwandtschaftsverhältnis verwandtschaftsgrad beziehung_zum rolle verhältnis_zum`,
    birth: `geburtsdatum geburtstag geb geboren gebdatum alter geburtsort gebdat geburtsjahr`,
    submitted: `zeitstempel eingegangen eingang datum_der_antwort abgeschickt ausgefüllt_am ausgefüllt übermittelt eingangsdatum absendezeit startzeit fertigstellungszeit erstellt`,
    season: `schuljahr saison spielzeit halbjahr`,
    street: `straße strasse anschrift wohnadresse hausnummer wohnanschrift postanschrift str`,
    town: `ort wohnort stadt gemeinde land bundesland staatsangehörigkeit nationalität ortsteil`,
    postcode: `plz postleitzahl`,
    health: `allergie allergien gesundheit medikamente krankheit krankheiten unverträglichkeit unverträglichkeiten ernährung behinderung besonderheiten förderbedarf impfung
      krankenversicherung diagnose masern masernschutz`,
    gender: `geschlecht anrede`,
    consent: `einwilligung einverständnis einverstanden erlaubnis fotoerlaubnis foto fotos datenschutz zustimmung dürfen darf unterschrift newsletter veröffentlichung`,
    notes: `bemerkung bemerkungen anmerkung anmerkungen notiz notizen hinweis hinweise sonstiges kommentar mitteilung`,
    job: `berufsbezeichnung dienststellung dienstbezeichnung amtsbezeichnung stellenbezeichnung personalnummer durchwahl mitarbeiter mitarbeiterin ?funktion ?position ?abteilung`,
    counter: `lfd laufende zeile pos lfdnr platz lfd_nr`,
    money: `beitrag bezahlt gebühr betrag zahlung kosten konto mitgliedsbeitrag rechnung`,
    private: `religion konfession iban passwort herkunft muttersprache sorgerecht bankverbindung`,
    first: `erste erster erstes ersten erst`,
    second: `zweite zweiter zweites zweiten weitere weiterer anderer andere`,
    third: `dritte dritter drittes`,
    fourth: `vierte vierter viertes`,
    fifth: `fünfte fünfter fünftes`,
  },
  small: `der die das des dem den und oder für in von vom zum zur wie heißt welche welcher welches ist sind ein eine bitte geben sie wir im geht besucht am bei mit lautet auf`,
  totals: `summe gesamt insgesamt anzahl gesamtzahl zusammen`,
  given: `hans peter klaus jürgen wolfgang dieter michael thomas andreas stefan christian martin frank markus jan tobias florian sebastian lukas leon finn
    paul jonas felix maximilian elias noah ben luca moritz jakob emil anton oskar matteo karl friedrich johann johannes philipp niklas tim nils lars sven uwe bernd
    maria ursula monika petra sabine renate helga karin brigitte ingrid erika christa gisela anna lena lea sophie marie emma mia hannah lina clara emilia
    johanna greta frieda ida mathilda charlotte laura julia katharina sandra nicole stefanie claudia susanne andrea birgit heike anja silke katrin kerstin
    melanie nadine tanja yvonne jana sarah lisa franziska theresa magdalena elisabeth eva antonia leonie amelie marlene ella luise henriette mehmet ayse fatma`,
};
