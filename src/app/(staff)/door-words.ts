import type { DoorWay } from "@/core/packet";

export const doorWayWords: Readonly<Record<DoorWay, string>> = {
  contact: "a code to where the message goes",
  email: "a code by e-mail",
  text: "a code by text",
  details: "matching details",
  "read-out": "a code that you read out",
  none: "nothing but the link",
};
