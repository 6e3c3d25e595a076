using Jexa.Core.Values;

namespace Jexa.Sources.Files;

/// <summary>The narrowest type that almost all values of a column have. Other values stay text, and are reported.</summary>
internal sealed class ColumnGuess(string name)
{
    private const int MostTold = 5;

    /// <summary>At most one value in twenty may have another type; otherwise the column is text.</summary>
    private const int OneIn = 20;

    private static readonly FieldType[] Types =
    [
        FieldType.Boolean,
        FieldType.Integer,
        FieldType.Decimal,
        FieldType.Date,
        FieldType.Timestamp,
        FieldType.Uuid,
    ];

    private static readonly System.Buffers.SearchValues<char> Digits = System.Buffers.SearchValues.Create("0123456789.");

    private readonly long[] _fits = new long[Types.Length];
    private readonly List<(string Place, string Value)>[] _misfits = [.. Types.Select(_ => new List<(string, string)>())];
    private long _filled;
    private long _rows;

    /// <summary>A value is digits with zeros before them. The column then holds codes, and must not lose its zeros.</summary>
    private bool _hasCodes;

    public string Name { get; } = name;

    public bool HasEmpty => _filled < _rows;

    public FieldType Type { get; private set; } = FieldType.Text;

    public void See(string? value, string place)
    {
        _rows++;
        if (value is null)
            return;
        _filled++;
        _hasCodes |= value.Length > 1 && value[0] == '0' && !value.AsSpan().ContainsAnyExceptInRange('0', '9');
        for (var i = 0; i < Types.Length; i++)
        {
            // A type that too many values do not have is not considered any more.
            if (_filled - _fits[i] > 200 && (_filled - _fits[i]) * OneIn > _filled)
                continue;
            if (Fits(value, Types[i]))
                _fits[i]++;
            else if (_misfits[i].Count < MostTold)
                _misfits[i].Add((place, value));
        }
    }

    /// <summary>Decides the type. Returns a message about values of another type, as the end of a sentence, or null.</summary>
    public string? Decide()
    {
        if (_filled == 0)
            return null;
        var best = Enumerable.Range(0, Types.Length).MaxBy(i => _fits[i]);
        var misfits = _filled - _fits[best];
        if (_fits[best] == 0 || misfits * OneIn > _filled || (_hasCodes && Types[best] is FieldType.Integer or FieldType.Decimal))
            return null;
        Type = Types[best];
        return misfits == 0
            ? null
            : $"{string.Join(", ", _misfits[best].Select(misfit => $"“{Cut(misfit.Value)}” in {misfit.Place}"))}"
                + $"{(misfits > _misfits[best].Count ? $" and {misfits - _misfits[best].Count} more" : "")}";
    }

    /// <summary>A value as it is stored: with the column's type if it has that type, else as text.</summary>
    public object Kept(string? value)
    {
        if (value is null)
            return DBNull.Value;
        return Type switch
        {
            FieldType.Boolean when Fits(value, Type) => value[0] is 't' or 'T' ? 1L : 0L,
            FieldType.Integer when Fits(value, Type) => long.Parse(value, System.Globalization.CultureInfo.InvariantCulture),
            _ => value,
        };
    }

    private static bool Fits(string value, FieldType type)
    {
        switch (type)
        {
            case FieldType.Boolean:
                return value is "true" or "false" or "True" or "False" or "TRUE" or "FALSE";
            case FieldType.Integer:
                return IsPlain(value)
                    && !value.Contains('.')
                    && long.TryParse(
                        value,
                        System.Globalization.NumberStyles.AllowLeadingSign,
                        System.Globalization.CultureInfo.InvariantCulture,
                        out _
                    );
            case FieldType.Decimal:
                return IsPlain(value);
            case FieldType.Uuid:
                return value.Length == 36 && Guid.TryParseExact(value, "D", out _);
            default:
                Span<byte> bytes = stackalloc byte[40];
                if (value.Length is < 10 or > 40 || !System.Text.Ascii.IsValid(value))
                    return false;
                bytes = bytes[..System.Text.Encoding.ASCII.GetBytes(value, bytes)];
                return type == FieldType.Date ? TypedText.TryDate(bytes, out _) : TypedText.TryTimestamp(bytes, out _);
        }
    }

    /// <summary>A number as people write it. With needless zeros before it, it is a code made of digits.</summary>
    private static bool IsPlain(string value)
    {
        var digits = value.AsSpan(value.StartsWith('-') ? 1 : 0);
        if (digits.IsEmpty || digits.Length > 40 || digits[0] == '.' || digits[^1] == '.')
            return false;
        if (digits[0] == '0' && digits.Length > 1 && digits[1] != '.')
            return false;
        return digits.Count('.') <= 1 && !digits.ContainsAnyExcept(Digits);
    }

    private static string Cut(string value) => value.Length <= 40 ? value : value[..40] + "…";
}
