using Jexa.Core.Values;

namespace Jexa.Core.Keys;

/// <summary>One of a few words, for filters of lists. Never an ID.</summary>
public sealed class WordKey(params IReadOnlyList<string> words) : KeyType
{
    /// <summary>Whether a field is empty.</summary>
    public static WordKey Emptiness { get; } = new("empty", "filled");

    /// <summary>The words that can stand there.</summary>
    public IReadOnlyList<string> Words => words;

    /// <inheritdoc/>
    public override FieldType Type => FieldType.Text;

    /// <inheritdoc/>
    public override string Looks => string.Join(" or ", words);

    /// <inheritdoc/>
    public override KeyReading Read(ReadOnlySpan<char> id)
    {
        foreach (var word in words)
            if (id.SequenceEqual(word))
                return KeyReading.Of(new TypedValue.Text(word), canonical: true);
        return KeyReading.Failed(KeyFault.WrongForm);
    }

    /// <inheritdoc/>
    public override bool TryWrite(Row row, int column, Utf8Buffer into) => false;

    /// <inheritdoc/>
    public override string Write(TypedValue value) => ((TypedValue.Text)value).Value;

    /// <inheritdoc/>
    public override TypedValue ValueOf(Row row, int column) => TypedValue.Empty.Value;

    /// <inheritdoc/>
    public override bool Holds(in Cell cell) => false;

    /// <inheritdoc/>
    public override KeyMatch Compare(Row row, int column, TypedValue asked) => KeyMatch.None;
}
