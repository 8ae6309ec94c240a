import type { Door, DoorWay } from "@/core/packet";

export const doorWayWords: Readonly<Record<DoorWay, string>> = {
  contact: "Code to the same address",
  email: "Code by e-mail",
  text: "Code by text",
  details: "Matching details",
  "read-out": "Code read out by staff",
  none: "None: link only",
};

/** "Proves who they are with …": what somebody does at the door they will find. */
export function doorWords(door: Door): string {
  switch (door.way) {
    case "code":
      return `proves who they are with a code sent ${door.channel === "email" ? "by e-mail" : "by text"} to ${door.to}`;
    case "details":
      return `proves who they are by a birth date and ${door.details === "postcode" ? "a postcode" : "a last name"}`;
    case "read-out":
      return "proves who they are with a code that you read out to them";
    case "none":
      return "gets in without any proof";
  }
}
/** Why it is not the door that was chosen; the empty text where it is. */
export function missingWords({ missing, way }: Door): string {
  if (missing === undefined) return "";
  const lacking = {
    contact: "There is no e-mail and no phone on file",
    email: "There is no e-mail on file",
    phone: "There is no phone on file",
    details: "What would be asked at the door is not on file",
  }[missing];
  return way === "details"
    ? `${lacking}, so no code can be sent there: details are asked instead.`
    : `${lacking}, so they need a code from you: read it out from the packet’s page.`;
}
