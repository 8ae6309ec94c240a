import { Doorstep } from "@/ui/kit/doorstep";
import { NothingHere } from "@/ui/kit/nothing-here";

export default function NotFound() {
  return (
    <Doorstep>
      <NothingHere />
    </Doorstep>
  );
}
