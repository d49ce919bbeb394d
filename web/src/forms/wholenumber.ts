/** A whole number as it is typed; null for "". Text that is none becomes NaN, which the contract refuses at its field. */
export const wholeNumber = (text: string): number | null => {
  if (text === "") return null;
  return /^\d+$/.test(text) ? Number(text) : Number.NaN;
};
