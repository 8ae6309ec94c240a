import { NothingHere } from "@/ui/kit/nothing-here";

export default function NothingHerePage() {
  return <NothingHere />;
}
