import type { DoorWay } from "@/core/packet";

export const doorWayWords: Readonly<Record<DoorWay, string>> = {
  contact: "Code to the same address",
  email: "Code by e-mail",
  text: "Code by text",
  details: "Matching details",
  "read-out": "Code read out by staff",
  none: "None: link only",
};
