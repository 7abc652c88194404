import { type ObjectKey } from '../../kernel/catalogue';
import { FAMILY, GIVEN, namePartHeadings } from './name-roles';

/**
 * What fields are called at the head of a column, beside what they are called here: in English as other teams say it,
 * then in German, French, Spanish, Italian, Dutch, Swedish, Norwegian, Danish, Polish and Portuguese. A new language
 * or habit is one more word in a line; capitals, spaces and signs do not count.
 */
const concepts = {
  person: `name; full name; contact; contact name; person; customer name; attendee;
    vollständiger name; ansprechpartner; ansprechperson; kontakt; kontaktperson; nom complet; interlocuteur; personne;
    nombre completo; contacto; persona de contacto; nome completo; contatto; referente; volledige naam; naam;
    contactpersoon; namn; fullständigt namn; kontaktperson; navn; fullt navn; fulde navn; imię i nazwisko; osoba;
    osoba kontaktowa; kontakt; contato; nome; nombre y apellidos; nom et prénom; nominativo`,
  organisation: `company; organisation; organization; account; account name; firm; company name; employer; business;
    client; customer; institution; organisation name; company/organisation;
    firma; firmenname; unternehmen; kunde; kundenname; organisation; société; entreprise; raison sociale; client;
    empresa; compañía; razón social; cliente; organización; azienda; società; ragione sociale; ditta; bedrijf;
    bedrijfsnaam; organisatie; klant; företag; företagsnamn; kund; bolag; bedrift; firmanavn; selskap; kunde;
    virksomhed; firmanavn; spółka; nazwa firmy; firma; klient; organizacja; empresa; nome da empresa; razão social`,
  role: `role; job title; title; position; function; job; designation;
    funktion; position; rolle; stelle; berufsbezeichnung; fonction; poste; titre; cargo; puesto; función; ruolo;
    mansione; posizione; qualifica; functie; rol; functietitel; befattning; roll; titel; stilling; tittel; rolle;
    stanowisko; funkcja; rola; cargo; função`,
  email: `email; mail; e-mail; mail address; email address; e-mail address; work email; business email; email 1;
    e-mail-adresse; mailadresse; courriel; adresse e-mail; adresse mail; mél; correo; correo electrónico; email;
    posta elettronica; indirizzo email; e-mailadres; e-post; epost; e-postadress; mejl; e-postadresse; epostadresse;
    mailadresse; adres e-mail; poczta; endereço de e-mail; correio eletrónico`,
  phone: `phone; telephone; tel; phone number; telephone number; direct line; work phone; business phone; office phone;
    phone 1; landline; switchboard;
    telefon; telefonnummer; tel.; rufnummer; festnetz; téléphone; tél; numéro de téléphone; téléphone fixe; teléfono;
    tel fijo; telefono; telefoon; telefoonnummer; tel.nr; telefonnummer; tlf; tlf.; telefon; numer telefonu; telefone;
    nr telefonu`,
  mobile: `mobile; cell; cell phone; mobile phone; mobile number; cellphone;
    handy; mobil; mobiltelefon; mobilnummer; handynummer; portable; téléphone portable; mobile; móvil; celular;
    cellulare; mobiel; mobiele telefoon; gsm; mobil; mobilnummer; mobiltelefon; komórka; telefon komórkowy;
    telemóvel; celular`,
  web: `website; web; url; domain; homepage; web address; site; web site; company domain;
    webseite; webadresse; internetseite; internet; site web; site internet; sitio web; página web; dominio;
    sito web; sito; website; webbplats; hemsida; nettsted; nettside; hjemmeside; strona www; strona internetowa;
    www; sítio; página web`,
  street: `street; address; street address; address line 1; address 1;
    strasse; straße; anschrift; adresse; rue; adresse; calle; dirección; domicilio; via; indirizzo; straat; adres;
    gata; gatuadress; adress; gate; gateadresse; vej; ulica; rua; endereço; morada`,
  postcode: `postcode; zip; zip code; postal code; post code;
    plz; postleitzahl; code postal; cp; código postal; cap; codice postale; postcode; postnummer; postnr; postnr.;
    kod pocztowy; cep; código postal`,
  city: `town; city; place; locality; location;
    ort; stadt; wohnort; ville; commune; ciudad; población; localidad; città; comune; località; plaats; stad;
    woonplaats; stad; ort; postort; by; sted; poststed; miasto; miejscowość; cidade; localidade`,
  country: `country; country code; nation;
    land; staat; pays; país; paese; nazione; stato; land; kraj; państwo; país`,
  source: `source; lead source; origin; channel; how did you hear about us; came from;
    quelle; herkunft; leadquelle; source; origine; provenance; origen; fuente; fonte; origine; bron; herkomst; källa;
    ursprung; kilde; opprinnelse; źródło; pochodzenie; origem; fonte`,
  campaign: `campaign; utm_campaign; event; show; trade fair;
    kampagne; messe; campagne; salon; campaña; feria; campagna; fiera; campagne; beurs; kampanj; mässa; kampanje;
    messe; kampania; targi; campanha; feira`,
  amount: `amount; value; price; deal value; deal size; total; revenue; budget; opportunity amount; worth;
    betrag; wert; auftragswert; volumen; summe; umsatz; montant; valeur; importe; valor; monto; importo; valore;
    bedrag; waarde; belopp; värde; summa; beløp; verdi; sum; beløb; værdi; kwota; wartość; valor; montante`,
  currency: `currency; currency code; währung; devise; monnaie; moneda; divisa; valuta; munt; valuta; waluta; moeda`,
  close: `close date; close; closing date; expected close; expected close date; estimated close; forecast date;
    abschlussdatum; abschluss; erwarteter abschluss; voraussichtlicher abschluss; date de clôture; clôture;
    clôture prévue; fecha de cierre; cierre; cierre previsto; data di chiusura; chiusura; chiusura prevista;
    sluitingsdatum; verwachte sluiting; slutdatum; avslutsdatum; förväntat avslut; lukkedato; avslutningsdato;
    forventet lukking; forventet afslutning; data zamknięcia; zamknięcie; data de fecho; data de fechamento`,
  probability: `probability; chance; likelihood; win probability; confidence;
    wahrscheinlichkeit; chance; probabilité; probabilidad; probabilità; waarschijnlijkheid; kans; sannolikhet;
    sannsynlighet; sandsynlighed; prawdopodobieństwo; probabilidade`,
  stage: `stage; deal stage; sales stage; phase; step;
    phase; stufe; verkaufsphase; étape; phase; etapa; fase; fase; fas; steg; fase; etap; etapa; fase`,
  deal: `deal; deal name; opportunity; opportunity name; project;
    verkaufschance; geschäft; projekt; affaire; opportunité; projet; oportunidad; negocio; proyecto; trattativa;
    opportunità; affare; progetto; verkoopkans; kans; project; affär; affärsmöjlighet; projekt; salgsmulighet;
    salgsmulighed; prosjekt; projekt; szansa; projekt; oportunidade; negócio; projeto`,
  owner: `owner; rep; salesperson; sales rep; assigned to; account manager; responsible; record owner;
    inhaber; verantwortlich; zuständig; betreuer; verkäufer; responsable; propriétaire; commercial; vendeur;
    propietario; comercial; vendedor; responsable; responsabile; proprietario; venditore; eigenaar; verkoper;
    verantwoordelijke; ägare; ansvarig; säljare; eier; selger; ansvarlig; ejer; sælger; właściciel; handlowiec;
    opiekun; responsável; vendedor; proprietário`,
  description: `description; notes; note; comment; comments; remarks; details; message;
    beschreibung; notiz; notizen; bemerkung; bemerkungen; kommentar; anmerkung; description; remarque; remarques;
    commentaire; commentaires; notes; descripción; notas; comentario; comentarios; observaciones; descrizione; note;
    commento; osservazioni; beschrijving; notities; opmerking; opmerkingen; beskrivning; anteckning; anteckningar;
    kommentar; beskrivelse; notat; notater; merknad; bemærkning; bemærkninger; noter; opis; notatki; uwagi; komentarz;
    descrição; notas; observações; comentário`,
  tags: `tags; tag; labels; label; keywords; categories; category;
    schlagwörter; schlagworte; stichworte; kategorien; étiquettes; mots-clés; catégories; etiquetas; categorías;
    etichette; categorie; trefwoorden; taggar; etiketter; nyckelord; kategorier; stikkord; nøgleord; etykiety;
    kategorie; etiquetas; categorias`,
  externalId: `external id; id; record id; reference; customer number; import id; key; customer id; contact id; lead id;
    account id; reference number;
    kundennummer; kennung; referenz; numéro client; référence; identifiant; número de cliente; referencia; numero
    cliente; riferimento; klantnummer; referentie; kundnummer; referens; kundenummer; referanse; reference; numer
    klienta; identyfikator; número do cliente; referência`,
  status: `status; lead status; statut; stato`,
  industry: `industry; line of work; sector; branch; business type; vertical;
    branche; sektor; wirtschaftszweig; secteur; secteur d’activité; industrie; sector; industria; rubro; settore;
    industria; branche; sector; bransch; bransje; branche; branża; sektor; setor; ramo; indústria`,
  relationship: `relationship; relation; kind of relationship; type; customer type; beziehung; kundentyp; relation;
    relación; relazione; relatie; relation; relasjon; relacja; relação`,
  timeFrame: `time frame; timing; timeframe; when; zeitrahmen; zeitpunkt; échéance; délai; plazo; tempistica; termijn;
    tidsram; tidsramme; termin; prazo`,
  interest: `interest; interested in; product; need; interesse; interessiert an; produkt; bedarf; intérêt; besoin;
    produit; interés; producto; interesse; prodotto; interesse; product; behoefte; intresse; produkt; behov;
    interesse; zainteresowanie; produkt; interesse; produto`,
  subject: `subject; task; what; activity; betreff; aufgabe; objet; tâche; sujet; asunto; tarea; oggetto; attività;
    compito; onderwerp; taak; ämne; uppgift; emne; oppgave; opgave; temat; zadanie; assunto; tarefa`,
  due: `due; due date; date; when due; deadline; fällig; fälligkeit; fällig am; datum; échéance; date; vencimiento;
    fecha; scadenza; data; vervaldatum; deadline; datum; förfallodatum; datum; forfallsdato; frist; forfald; dato;
    termin; data; vencimento; prazo; data`,
} as const;

type Concept = keyof typeof concepts;

/** Which concept a field is, by its object and key. */
const fields: Partial<Record<ObjectKey, Readonly<Record<string, Concept>>>> = {
  lead: { name: 'person', organisation: 'organisation', budget: 'amount', web: 'web' },
  contact: { name: 'person' },
  account: { name: 'organisation', domain: 'web' },
  deal: { name: 'deal', value: 'amount', closeOn: 'close' },
  activity: { name: 'subject', dueOn: 'due' },
};

const isConcept = (key: string): key is Concept => Object.hasOwn(concepts, key);

/** What the columns of a field are usually called; none for fields of one’s own. */
export function headingWords(object: ObjectKey, key: string): readonly string[] {
  if (object === 'contact' && key === 'firstName') return namePartHeadings(GIVEN);
  if (object === 'contact' && key === 'lastName') return namePartHeadings(FAMILY);
  const concept = fields[object]?.[key] ?? (isConcept(key) ? key : undefined);
  return concept === undefined ? [] : [...new Set(concepts[concept].split(';').map((word) => word.trim()))];
}
