import fc from "fast-check";
import { expect, it } from "vitest";
import { NoteStanding } from "../../src/app/(staff)/notes/[noteId]/note-standing";

it("nothing typed is ever shown over, and what was written elsewhere is shown as soon as nothing is typed", () => {
  const act = fc.constantFrom("type", "save", "typed while it was saved", "elsewhere", "reload", "go over", "give up");
  fc.assert(
    fc.property(fc.array(act, { maxLength: 40 }), (acts) => {
      const standing = new NoteStanding(1);
      let [server, shown, typed] = [1, 1, false];
      const save = (more: boolean): void => {
        // The server takes only what is about the revision it has.
        if (standing.revision() !== server) return;
        server++;
        shown = server;
        typed = more;
        standing.kept(server, more);
      };
      for (const one of acts) {
        if (one === "type") {
          typed = true;
          standing.type();
        } else if (one === "save" && typed) save(false);
        else if (one === "typed while it was saved" && typed) save(true);
        else if (one === "elsewhere") server++;
        else if (one === "go over" && typed) {
          standing.goOver(server);
          expect(standing.isOver()).toBe(true);
          save(false);
          expect(standing.isOver()).toBe(false);
        } else if (one === "give up") {
          typed = false;
          standing.giveUp();
        } else if (one === "reload") {
          const takes = standing.isElsewhere(server);
          expect(takes).toBe(!typed && server !== shown);
          if (takes) {
            shown = server;
            standing.shows(server);
          }
        }
        expect(standing.isDirty()).toBe(typed);
        expect(standing.revision()).toBe(shown);
      }
    }),
  );
});
