/** Letters and digits only, so that `E-Mail`, `e_mail` and `email` are one name. */
export const plainHeading = (name: string) => name.toLowerCase().replace(/[^\p{L}\d]/gu, '');
