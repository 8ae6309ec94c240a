import { Doorstep } from "@/ui/doorstep";
import { NothingHere } from "@/ui/nothing-here";

export default function NotFound() {
  return (
    <Doorstep>
      <NothingHere />
    </Doorstep>
  );
}
