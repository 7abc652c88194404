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

/** At which place of a name a column of this heading stands, by its plain heading. */
export const rolesOfName: ReadonlyMap<string, number> = new Map(
  parts.flatMap((headings, role) =>
    headings.split(';').map((heading) => [plainHeading(heading.trim()), role] as const),
  ),
);

export const GIVEN = 1;
export const FAMILY = 3;
