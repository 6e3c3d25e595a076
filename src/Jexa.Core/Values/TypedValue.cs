namespace Jexa.Core.Values;

/// <summary>
/// A typed value that is sent to a source: an ID read from an address, or a value written in the app file. A number is never sent
/// as text.
/// </summary>
public abstract record TypedValue
{
    private TypedValue() { }

    /// <summary>A whole number.</summary>
    public sealed record Whole(long Value) : TypedValue
    {
        /// <inheritdoc/>
        public override string ToString() => Value.ToString();
    }

    /// <summary>A text.</summary>
    public sealed record Text(string Value) : TypedValue
    {
        /// <inheritdoc/>
        public override string ToString() => Value;
    }

    /// <summary>A UUID.</summary>
    public sealed record Uuid(Guid Value) : TypedValue
    {
        /// <inheritdoc/>
        public override string ToString() => Value.ToString("D");
    }

    /// <summary>A date.</summary>
    public sealed record Date(DateOnly Value) : TypedValue
    {
        /// <inheritdoc/>
        public override string ToString() => Value.ToString("yyyy-MM-dd");
    }

    /// <summary>A moment without a zone, to the second.</summary>
    public sealed record Moment(DateTime Value) : TypedValue
    {
        /// <inheritdoc/>
        public override string ToString() => Value.ToString("yyyy-MM-dd HH:mm:ss");
    }

    /// <summary>An exact decimal number.</summary>
    public sealed record Number(decimal Value) : TypedValue
    {
        /// <inheritdoc/>
        public override string ToString() => Value.ToString("0.############################");
    }

    /// <summary>True or false.</summary>
    public sealed record Boolean(bool Value) : TypedValue
    {
        /// <inheritdoc/>
        public override string ToString() => Value ? "true" : "false";
    }

    /// <summary>A real number. It occurs as a position in a list, never as an ID.</summary>
    public sealed record Real(double Value) : TypedValue
    {
        /// <inheritdoc/>
        public override string ToString() => Value.ToString("R");
    }

    /// <summary>No value. It occurs as a position among empty fields of a list, never as an ID.</summary>
    public sealed record Empty : TypedValue
    {
        /// <summary>The only instance.</summary>
        public static Empty Value { get; } = new();

        /// <inheritdoc/>
        public override string ToString() => "(empty)";
    }

    /// <summary>Bytes: a key, or a position in a list.</summary>
    public sealed record Bytes(byte[] Value) : TypedValue
    {
        /// <summary>Whether two values have the same bytes.</summary>
        public bool Equals(Bytes? other) => other is not null && Value.AsSpan().SequenceEqual(other.Value);

        /// <inheritdoc/>
        public override int GetHashCode()
        {
            var hash = default(HashCode);
            hash.AddBytes(Value);
            return hash.ToHashCode();
        }

        /// <inheritdoc/>
        public override string ToString() => Convert.ToHexStringLower(Value);
    }
}
