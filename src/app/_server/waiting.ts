import "server-only";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "./run";

/** What the spine counts, asked once a request. A page whose own work is long waits for it: the frame comes first. */
export const waiting = cache(() => load(useCases.waiting, {}));
