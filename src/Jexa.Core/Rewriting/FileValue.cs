namespace Jexa.Core.Rewriting;

/// <summary>A value in an app file: what it means, without how it is written.</summary>
public abstract record FileValue
{
    private FileValue() { }

    /// <summary>A text, number or truth. Jexa reads all of them as texts.</summary>
    /// <param name="IsNothing">Whether nothing is written: <c>key:</c> without a value.</param>
    public sealed record Text(string Value, bool IsNothing = false) : FileValue;

    /// <summary>A list.</summary>
    public sealed record List(IReadOnlyList<FileValue> Items) : FileValue
    {
        /// <inheritdoc/>
        public bool Equals(List? other) => other is not null && Items.SequenceEqual(other.Items);

        /// <inheritdoc/>
        public override int GetHashCode() => Items.Count;
    }

    /// <summary>A mapping. The order of its entries is part of it.</summary>
    public sealed record Map(IReadOnlyList<KeyValuePair<string, FileValue>> Entries) : FileValue
    {
        /// <inheritdoc/>
        public bool Equals(Map? other) => other is not null && Entries.SequenceEqual(other.Entries);

        /// <inheritdoc/>
        public override int GetHashCode() => Entries.Count;
    }

    /// <summary>A mapping of these entries.</summary>
    public static Map Of(params (string Key, FileValue Value)[] entries) =>
        new([.. entries.Select(entry => KeyValuePair.Create(entry.Key, entry.Value))]);

    /// <summary>A list of these texts.</summary>
    public static List Of(IEnumerable<string> texts) => new([.. texts.Select(text => new Text(text))]);

    /// <summary>A text.</summary>
    public static Text Of(string text) => new(text);
}
