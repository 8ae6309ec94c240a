/** Said by whatever starts the demo practice: where it is and who may sign in. */
export const demoPassword = "heron-reed-lantern-42";
export const demoWords = (port) => `
Kind Ledger with Fernhollow Care Rooms: http://localhost:${port}
  owner         maren@fernhollow.example
  practitioner  tobias@fernhollow.example, salma@fernhollow.example
  office        pia@fernhollow.example
  password      ${demoPassword} (for all of them; the sign-in page offers them)
Letters and texts arrive in the Post room, on the Day sheet.`;
