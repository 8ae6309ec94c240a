import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../_server/run";
import { PeopleView } from "./people-view";

export const metadata: Metadata = { title: "People" };
export default async function PeoplePage() {
  return <PeopleView first={await load(useCases.people, {})} rights={await staffRights()} />;
}
