using System.Numerics;
using System.Runtime.InteropServices;

namespace Sexton.Core.Values;

/// <summary>An exact number: a fraction in lowest terms. Nothing is rounded before somebody says so.</summary>
[StructLayout(LayoutKind.Auto)]
public readonly struct Fraction : IComparable<Fraction>, IEquatable<Fraction>
{
    private readonly BigInteger _numerator;
    private readonly BigInteger _denominator;

    private Fraction(BigInteger numerator, BigInteger denominator)
    {
        var divisor = BigInteger.GreatestCommonDivisor(numerator, denominator);
        (_numerator, _denominator) =
            denominator.Sign < 0 ? (-numerator / divisor, -denominator / divisor) : (numerator / divisor, denominator / divisor);
    }

    // The fraction of a value that was never set is nothing.
    private BigInteger Denominator => _denominator.IsZero ? BigInteger.One : _denominator;

    /// <summary>Whether it is nothing.</summary>
    public bool IsZero => _numerator.IsZero;

    /// <summary>A decimal number, exactly.</summary>
    public static Fraction Of(decimal number)
    {
        Span<int> bits = stackalloc int[4];
        decimal.GetBits(number, bits);
        var magnitude = new BigInteger(MemoryMarshal.AsBytes(bits[..3]), isUnsigned: true);
        return new(number < 0 ? -magnitude : magnitude, BigInteger.Pow(10, number.Scale));
    }

    /// <summary>The sum.</summary>
    public static Fraction operator +(Fraction a, Fraction b) =>
        new((a._numerator * b.Denominator) + (b._numerator * a.Denominator), a.Denominator * b.Denominator);

    /// <summary>The difference.</summary>
    public static Fraction operator -(Fraction a, Fraction b) =>
        new((a._numerator * b.Denominator) - (b._numerator * a.Denominator), a.Denominator * b.Denominator);

    /// <summary>The product.</summary>
    public static Fraction operator *(Fraction a, Fraction b) => new(a._numerator * b._numerator, a.Denominator * b.Denominator);

    /// <summary>The quotient.</summary>
    /// <exception cref="DivideByZeroException">The divisor is nothing.</exception>
    public static Fraction operator /(Fraction a, Fraction b) =>
        b.IsZero ? throw new DivideByZeroException() : new(a._numerator * b.Denominator, a.Denominator * b._numerator);

    /// <summary>Whether one is less than the other.</summary>
    public static bool operator <(Fraction a, Fraction b) => a.CompareTo(b) < 0;

    /// <summary>Whether one is greater than the other.</summary>
    public static bool operator >(Fraction a, Fraction b) => a.CompareTo(b) > 0;

    /// <summary>Whether one is less than the other, or equal.</summary>
    public static bool operator <=(Fraction a, Fraction b) => a.CompareTo(b) <= 0;

    /// <summary>Whether one is greater than the other, or equal.</summary>
    public static bool operator >=(Fraction a, Fraction b) => a.CompareTo(b) >= 0;

    /// <summary>Whether both are the same number.</summary>
    public static bool operator ==(Fraction a, Fraction b) => a.Equals(b);

    /// <summary>Whether they are different numbers.</summary>
    public static bool operator !=(Fraction a, Fraction b) => !a.Equals(b);

    /// <summary>The greatest whole number that is not above it.</summary>
    public Fraction Floor() => new(FloorOf(_numerator, Denominator), BigInteger.One);

    /// <summary>The least whole number that is not below it.</summary>
    public Fraction Ceiling() => new(-FloorOf(-_numerator, Denominator), BigInteger.One);

    /// <summary>The nearest whole number, half away from zero.</summary>
    public Fraction Round()
    {
        var magnitude = FloorOf((BigInteger.Abs(_numerator) * 2) + Denominator, Denominator * 2);
        return new(_numerator.Sign < 0 ? -magnitude : magnitude, BigInteger.One);
    }

    /// <summary>The nearest decimal number of so many digits after the point, half away from zero; null where it is beyond all of them.</summary>
    /// <param name="decimals">From 0 to 28.</param>
    public decimal? ToDecimal(int decimals)
    {
        var scale = BigInteger.Pow(10, decimals);
        var scaled = (this * new Fraction(scale, BigInteger.One)).Round()._numerator;
        return BigInteger.Abs(scaled) > new BigInteger(decimal.MaxValue) ? null : (decimal)scaled / (decimal)scale;
    }

    /// <inheritdoc/>
    public int CompareTo(Fraction other) => (_numerator * other.Denominator).CompareTo(other._numerator * Denominator);

    /// <inheritdoc/>
    public bool Equals(Fraction other) => CompareTo(other) == 0;

    /// <inheritdoc/>
    public override bool Equals(object? obj) => obj is Fraction other && Equals(other);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(_numerator, Denominator);

    /// <inheritdoc/>
    public override string ToString() => $"{_numerator}/{Denominator}";

    private static BigInteger FloorOf(BigInteger numerator, BigInteger denominator)
    {
        var quotient = BigInteger.DivRem(numerator, denominator, out var rest);
        return rest.Sign < 0 ? quotient - 1 : quotient;
    }
}
