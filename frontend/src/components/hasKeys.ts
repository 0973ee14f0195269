/** Whether a keyboard lies before whoever uses this; under a thumb none jumps up unasked, and hints at keys are left out. */
export const hasKeys = (): boolean => !window.matchMedia("(pointer: coarse)").matches;
