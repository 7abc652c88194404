const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

/** Words that are written together in an address, with capitals: `runa.seagrave` → `Runa Seagrave`. */
export const spelledOut = (text: string): string =>
  text
    .split(/[._\-+\d]+/)
    .filter(Boolean)
    .map(capital)
    .join(' ');

/** What somebody is called by their address alone: `runa.seagrave@trust.example` → `Runa Seagrave`. */
export const nameInAddress = (email: string): string => spelledOut(email.split('@')[0]) || email;
