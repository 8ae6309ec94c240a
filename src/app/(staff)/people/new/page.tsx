import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { NewPersonView } from "./new-person-view";

export const metadata: Metadata = { title: "Add a client" };
export default function NewPersonPage() {
  return <NewPersonView requestId={randomUUID()} />;
}
