import { plainHeading } from './plain-heading';

/** The parts of a person’s name in the order in which it is said, and what their columns are called. */
const parts = [
  `salutation; honorific; name prefix; prefix; anrede; civilité; tratamiento; titolo; aanhef; tilltal; tiltale; tiltaleform;
    zwrot; tratamento; akademischer titel`,
  `first name; first; given name; forename; christian name; firstname; fname; vorname; prénom; prenom; nombre;
    nombre de pila; nome; nome di battesimo; voornaam; förnamn; fornavn; imię; imie; primeiro nome; nome próprio`,
  `middle name; middle; middle initial; second name; zweiter vorname; deuxième prénom; segundo nombre; secondo nome;
    tussenvoegsel; mellannamn; mellomnavn; mellemnavn; drugie imię; nome do meio`,
  `last name; last; surname; family name; lastname; lname; nachname; familienname; zuname; nom; nom de famille; apellido;
    apellidos; cognome; achternaam; efternamn; etternavn; efternavn; nazwisko; apelido; sobrenome; último nome`,
  `suffix; name suffix; namenszusatz; suffixe; sufijo; suffisso; achtervoegsel; suffix`,
] as const;

const places: ReadonlyMap<string, number> = new Map(
  parts.flatMap((headings, role) =>
    headings.split(';').map((heading) => [plainHeading(heading.trim()), role] as const),
  ),
);

export const GIVEN = 1;
export const MIDDLE = 2;
export const FAMILY = 3;

/**
 * At which place of a name a column of this heading stands; undefined when it is no part of a name. The heading may say
 * whose name it is: `Contact first name`.
 */
export function nameRole(heading: string): number | undefined {
  const plain = plainHeading(heading);
  return places.get(plain) ?? places.get(plain.replace(/^(contact|lead|person|kontakt)/, ''));
}

/** What columns of a first, or of a last name are called. */
export const namePartHeadings = (role: typeof GIVEN | typeof FAMILY): readonly string[] =>
  parts[role].split(';').map((heading) => heading.trim());
