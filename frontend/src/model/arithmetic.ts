// Sums in number fields: 12*1.5, (100-4)/2.

/** The value of a sum, or null where it is none. Knows + − * / and brackets. */
export function calculate(words: string): number | null {
  const tokens = words.replace(/,/g, ".").replace(/[×x]/g, "*").replace(/[−–]/g, "-")
    .match(/\d*\.?\d+(?:e[+-]?\d+)?|[-+*/()]|\S/gi);
  if (!tokens) return null;
  let at = 0;

  function sum(): number {
    let value = product();
    while (tokens![at] === "+" || tokens![at] === "-") {
      value = tokens![at++] === "+" ? value + product() : value - product();
    }
    return value;
  }
  function product(): number {
    let value = factor();
    while (tokens![at] === "*" || tokens![at] === "/") {
      value = tokens![at++] === "*" ? value * factor() : value / factor();
    }
    return value;
  }
  function factor(): number {
    const token = tokens![at++];
    if (token === "-") return -factor();
    if (token === "+") return factor();
    if (token === "(") {
      const value = sum();
      return tokens![at++] === ")" ? value : NaN;
    }
    return token === undefined ? NaN : Number(token);
  }

  const value = sum();
  return at === tokens.length && Number.isFinite(value) ? value : null;
}
