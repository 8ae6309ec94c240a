/** `i···@f···.example`: enough to recognise one's own address, too little to learn somebody else's. */
function maskEmail(email: string): string {
  const at = email.lastIndexOf("@");
  const dot = email.lastIndexOf(".");
  return `${email.slice(0, 1)}···@${email.slice(at + 1, at + 2)}···${dot > at ? email.slice(dot) : ""}`;
}
/** `···314`: the last three digits. */
const maskPhone = (phone: string): string => `···${phone.replace(/\D/g, "").slice(-3)}`;

export const maskContact = (channel: "email" | "text", to: string): string =>
  channel === "email" ? maskEmail(to) : maskPhone(to);
