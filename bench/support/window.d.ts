/** What measurements leave in the pages they look at. */
interface Window {
  benchFrames?: { gaps: number[]; stop: boolean };
  benchSeen?: { shift: number; paint: number; blocked: number };
}
