/** "£0.04": an amount in thousandths of a currency (ISO 4217). */
export function sayPrice(thousandths: number, currency: string): string {
  return new Intl.NumberFormat("en-GB", {
    style: "currency",
    currency,
    minimumFractionDigits: 2,
    maximumFractionDigits: 3,
  }).format(thousandths / 1000);
}
