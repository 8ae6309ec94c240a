"use client";
import { Button } from "@/ui/kit/button";
import { Doorstep } from "@/ui/kit/doorstep";

/** Something failed that should not have. What was saved before stays saved. */
export default function ErrorPage({ reset }: { readonly reset: () => void }) {
  return (
    <Doorstep>
      <h1>That did not work</h1>
      <p>Something went wrong on our side. What was saved before is safe; what you did last may not have been done.</p>
      <div>
        <Button weight="primary" onPress={reset}>
          Try again
        </Button>
      </div>
    </Doorstep>
  );
}
