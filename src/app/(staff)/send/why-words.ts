/** Why somebody may be the same person as another. */
export const whyWords: Readonly<Record<string, string>> = {
  email: "the same e-mail",
  phone: "the same phone",
  name: "nearly the same name",
  "name-and-birth-date": "the same name and birth date",
};
