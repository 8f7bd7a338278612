/**
 * Marks without an anchor. A font may leave it open where a mark stands on a letter (OpenType, GPOS, “BaseAnchor
 * offsets may be NULL”); the library that sets the letters (fontkit 2.0.4) reads through it there and stops with a fault,
 * which one name in a hundred of some scripts runs into. Such a mark stays where the font draws it.
 */
type Anchored = { readonly markAnchor: unknown };
type Positions = { applyAnchor(mark: Anchored, base: unknown, index: number): void };
type Engine = { readonly engine?: { readonly GPOSProcessor?: Positions | null } | null };

const mended = new WeakSet<object>();

/** Sees to it that a font as it was opened for a page sets marks without an anchor. */
export function allowOpenAnchors(font: unknown): void {
  const processor = (font as { readonly _layoutEngine?: Engine } | undefined)?._layoutEngine?.engine?.GPOSProcessor;
  if (!processor) return;
  const all = Object.getPrototypeOf(processor) as Positions;
  if (mended.has(all)) return;
  mended.add(all);
  const { applyAnchor } = all;
  all.applyAnchor = function (mark, base, index) {
    if (base && mark.markAnchor) applyAnchor.call(this, mark, base, index);
  };
}
