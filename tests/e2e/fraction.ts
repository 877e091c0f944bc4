/** A fraction of whole numbers; the denominator is above zero. */
export class Fraction {
  constructor(
    readonly n: bigint,
    readonly d: bigint = 1n,
  ) {}
  static of(decimal: number): Fraction {
    const [whole, rest = ''] = String(decimal).split('.');
    return new Fraction(BigInt(whole! + rest), 10n ** BigInt(rest.length));
  }
  plus(o: Fraction): Fraction {
    return new Fraction(this.n * o.d + o.n * this.d, this.d * o.d);
  }
  minus(o: Fraction): Fraction {
    return new Fraction(this.n * o.d - o.n * this.d, this.d * o.d);
  }
  times(o: Fraction): Fraction {
    return new Fraction(this.n * o.n, this.d * o.d);
  }
  dividedBy(o: Fraction): Fraction {
    return o.n < 0n ? new Fraction(-this.n * o.d, this.d * -o.n) : new Fraction(this.n * o.d, this.d * o.n);
  }
  over(o: Fraction): boolean {
    return this.n * o.d > o.n * this.d;
  }
  is(o: Fraction): boolean {
    return this.n * o.d === o.n * this.d;
  }
  /** The least whole number that is not less. */
  ceiling(): bigint {
    return -new Fraction(-this.n, this.d).floor();
  }
  /** The greatest whole number that is not greater. */
  floor(): bigint {
    const q = this.n / this.d;
    return this.n % this.d < 0n ? q - 1n : q;
  }
  /** The nearest whole number, half away from zero. */
  nearest(): bigint {
    const half = new Fraction(1n, 2n);
    return this.n < 0n ? -new Fraction(-this.n, this.d).plus(half).floor() : this.plus(half).floor();
  }
  /** To whole numbers, half away from zero. */
  rounded(): number {
    return Number(this.nearest());
  }
}

export const whole = (n: number): Fraction => new Fraction(BigInt(n));
export const least = (a: Fraction, b: Fraction): Fraction => (a.over(b) ? b : a);
export const greatest = (a: Fraction, b: Fraction): Fraction => (a.over(b) ? a : b);
