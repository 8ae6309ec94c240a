import { NothingHere } from "@/ui/nothing-here";

export default function NothingHerePage() {
  return <NothingHere />;
}
