using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>A change, in traces only.</summary>
internal sealed class ShownWrite(string text) : IPreparedQuery
{
    private const int Most = 2000;

    public int Width => 0;

    public IReadOnlyList<string> ColumnNames => [];

    public ValueTask RunAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation) =>
        throw new NotSupportedException();

    public string Shown(IReadOnlyList<TypedValue> arguments) => text.Length <= Most ? text : text[..Most] + "…";
}
