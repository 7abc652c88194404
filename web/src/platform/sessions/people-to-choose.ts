interface Person {
  id: number;
  name: string;
  active: boolean;
}

/** People to choose from, as options: those who are here, and whoever is chosen already though they have left. */
export const peopleToChoose = (
  people: readonly Person[],
  ...chosen: unknown[]
): { value: number; label: string }[] =>
  people
    .filter(({ id, active }) => active || chosen.includes(id))
    .map(({ id, name, active }) => ({ value: id, label: active ? name : `${name}, left` }));
