/** Money from ten-thousandths, with the decimals of a till. */
export function moneyText(tenThousandths: number): string {
  return (tenThousandths / 10_000).toFixed(2);
}

/** A large count with blanks between thousands; beyond a billion, its size. */
export function waysText(ways: number): string {
  if (ways >= 1e9) return `10^${Math.floor(Math.log10(ways))}`;
  return Math.round(ways)
    .toString()
    .replace(/\B(?=(\d{3})+$)/g, "\u202f");
}
