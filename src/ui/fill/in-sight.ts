import { useCallback, useEffect, useRef, type RefObject } from "react";

const boxOf = (target: Element): DOMRect => (target.closest("label") ?? target).getBoundingClientRect();
/** Whether something of it can be seen. */
const isInSight = (target: Element): boolean => {
  const box = boxOf(target);
  return box.bottom > 0 && box.top < window.innerHeight;
};
/** Whether all of it can be seen, or as much as the window holds. */
const isWhole = (target: Element): boolean => {
  const box = boxOf(target);
  return box.height > window.innerHeight ? isInSight(target) : box.top >= 0 && box.bottom <= window.innerHeight;
};
/**
 * Brings what has the focus out from under a foot that stays in sight: not every engine heeds scroll-padding for it
 * (WCAG 2.2, 2.4.11).
 */
function outOf(foot: HTMLElement | null, target: Element): void {
  if (!foot || foot.contains(target)) return;
  const [over, box] = [foot.getBoundingClientRect(), boxOf(target)];
  if (box.bottom > over.top && box.top < over.bottom) window.scrollBy(0, box.bottom - over.top + 12);
}

/**
 * Keeps what has the focus in sight: not under the foot, and not pushed out when something above it grows, such as a
 * follow-up or a part that the line brings late. Who scrolls away from it is left where they are.
 *
 * @returns what to do as something in `whole` takes the focus
 */
export function useFocusInSight(whole: RefObject<HTMLElement | null>, foot: RefObject<HTMLElement | null>) {
  const held = useRef<Element | undefined>(undefined);
  useEffect(() => {
    const page = whole.current;
    if (!page) return;
    let height = page.offsetHeight;
    const scrolled = () => {
      // What has grown within this frame is the observer's, which hears of it next.
      if (held.current && page.offsetHeight === height && !isInSight(held.current)) held.current = undefined;
    };
    const grown = new ResizeObserver(() => {
      height = page.offsetHeight;
      const target = held.current;
      if (!target || target !== document.activeElement) return;
      if (!isWhole(target)) (target.closest("label") ?? target).scrollIntoView({ block: "nearest" });
      outOf(foot.current, target);
    });
    grown.observe(page);
    window.addEventListener("scroll", scrolled, { passive: true });
    return () => {
      grown.disconnect();
      window.removeEventListener("scroll", scrolled);
    };
  }, [whole, foot]);
  return useCallback(
    ({ target }: { readonly target: Element }) => {
      held.current = target;
      requestAnimationFrame(() => outOf(foot.current, target));
    },
    [foot],
  );
}
