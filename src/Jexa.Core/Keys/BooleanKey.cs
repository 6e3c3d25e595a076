using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>
/// A boolean as a part of a key. Canonical: <c>true</c> and <c>false</c>. Other letter case, <c>1</c> and <c>0</c> mean the same.
/// </summary>
public sealed class BooleanKey : KeyType
{
    private BooleanKey() { }

    /// <summary>The only instance.</summary>
    public static BooleanKey Instance { get; } = new();

    /// <inheritdoc/>
    public override FieldType Type => FieldType.Boolean;

    /// <inheritdoc/>
    public override string Looks => "true or false";

    /// <inheritdoc/>
    public override KeyReading Read(ReadOnlySpan<char> id)
    {
        bool? value =
            id.Equals("true", StringComparison.OrdinalIgnoreCase) || id is "1" ? true
            : id.Equals("false", StringComparison.OrdinalIgnoreCase) || id is "0" ? false
            : null;
        return value is { } known
            ? KeyReading.Of(new TypedValue.Boolean(known), id is "true" or "false")
            : KeyReading.Failed(KeyFault.WrongForm);
    }

    /// <inheritdoc/>
    public override bool TryWrite(Row row, int column, Utf8Buffer into)
    {
        if (row[column].Kind != CellKind.Boolean)
            return false;
        into.Append(row[column].Integer == 0 ? "false"u8 : "true"u8);
        return true;
    }

    /// <inheritdoc/>
    public override string Write(TypedValue value) => ((TypedValue.Boolean)value).Value ? "true" : "false";

    /// <inheritdoc/>
    public override bool Holds(in Cell cell) => cell.Kind == CellKind.Boolean;

    /// <inheritdoc/>
    public override TypedValue ValueOf(Row row, int column) => new TypedValue.Boolean(row[column].Integer != 0);

    /// <inheritdoc/>
    public override KeyMatch Compare(Row row, int column, TypedValue asked) =>
        row[column].Kind == CellKind.Boolean && asked is TypedValue.Boolean truth && (row[column].Integer != 0) == truth.Value
            ? KeyMatch.Exact
            : KeyMatch.None;
}
