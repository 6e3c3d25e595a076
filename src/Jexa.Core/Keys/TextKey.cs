using System.Text;
using System.Text.RegularExpressions;
using System.Text.Unicode;
using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>
/// Text as it is: never trimmed, never Unicode-normalised. Every spelling is canonical as far as the text tells. If a column
/// folds case, only loading the record shows whether it is stored in another spelling.
/// </summary>
public sealed class TextKey : KeyType
{
    private readonly TextForm _form;
    private readonly Regex? _pattern;

    private TextKey(bool foldsCase, TextForm form)
    {
        FoldsCase = foldsCase;
        _form = form;
        _pattern = form.Whole(foldsCase);
    }

    /// <summary>For columns that compare code unit by code unit.</summary>
    public static TextKey Exact { get; } = new(false, TextForm.Any);

    /// <summary>For columns whose collation may find a row under another spelling.</summary>
    public static TextKey Folding { get; } = new(true, TextForm.Any);

    /// <summary>Whether the column compares texts without regard to case.</summary>
    public bool FoldsCase { get; }

    /// <summary>The form of its texts.</summary>
    public TextForm Form => _form;

    /// <inheritdoc/>
    public override FieldType Type => FieldType.Text;

    /// <inheritdoc/>
    public override string Looks =>
        _form.Example is { } example ? $"a text such as {example}"
        : _form.MaxLength is { } most ? $"a text of at most {most:N0} characters, spelled as in the link that leads to it"
        : "a text, spelled as in the link that leads to it";

    /// <summary>The key type for texts of a declared form.</summary>
    public static TextKey Of(bool foldsCase, TextForm form) =>
        form == TextForm.Any
            ? foldsCase
                ? Folding
                : Exact
            : new TextKey(foldsCase, form);

    /// <inheritdoc/>
    public override KeyReading Read(ReadOnlySpan<char> id)
    {
        if (id.Contains('\0'))
            return KeyReading.Failed(KeyFault.BadEncoding);
        if (id.Length > MaxBytes || Encoding.UTF8.GetByteCount(id) > MaxBytes)
            return KeyReading.Failed(KeyFault.TooLong);
        if (id.Length > (_form.MaxLength ?? int.MaxValue))
            return KeyReading.Failed(KeyFault.TooLong);
        if (_pattern?.IsMatch(id) == false)
            return KeyReading.Failed(KeyFault.WrongForm);
        return KeyReading.Of(new TypedValue.Text(id.ToString()), canonical: true);
    }

    /// <inheritdoc/>
    public override bool TryWrite(Row row, int column, Utf8Buffer into)
    {
        if (row[column].Kind != CellKind.Text)
            return false;
        var text = row.Run(column);
        if (text.IsEmpty || text.Length > MaxBytes || text.Contains((byte)0) || !Utf8.IsValid(text))
            return false;
        if (_form != TextForm.Any && Read(Encoding.UTF8.GetString(text)).Fault != KeyFault.None)
            return false;
        into.Append(text);
        return true;
    }

    /// <inheritdoc/>
    public override string Write(TypedValue value) => ((TypedValue.Text)value).Value;

    /// <inheritdoc/>
    public override TypedValue ValueOf(Row row, int column) => new TypedValue.Text(Encoding.UTF8.GetString(row.Run(column)));

    /// <inheritdoc/>
    public override bool Holds(in Cell cell) => cell.Kind == CellKind.Text;

    /// <inheritdoc/>
    public override KeyMatch Compare(Row row, int column, TypedValue asked)
    {
        if (row[column].Kind != CellKind.Text || asked is not TypedValue.Text text)
            return KeyMatch.None;
        var held = row.Run(column);
        var max = Encoding.UTF8.GetMaxByteCount(text.Value.Length);
        Span<byte> wanted = max <= 512 ? stackalloc byte[512] : new byte[max];
        wanted = wanted[..Encoding.UTF8.GetBytes(text.Value, wanted)];
        if (held.SequenceEqual(wanted))
            return KeyMatch.Exact;
        return Encoding.UTF8.GetString(held).Equals(text.Value, StringComparison.OrdinalIgnoreCase)
            ? KeyMatch.CaseOnly
            : KeyMatch.None;
    }
}
