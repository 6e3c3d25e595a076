using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Http;

/// <summary>A query over the records of an API, which are read first.</summary>
internal sealed class HttpQuery(
    HttpSource source,
    IPreparedQuery inner,
    IReadOnlyList<string> tables,
    IReadOnlyList<Operand>? key
) : IPreparedQuery
{
    public int Width => inner.Width;

    public IReadOnlyList<string> ColumnNames => inner.ColumnNames;

    public IReadOnlyList<int> SecretCells => inner.SecretCells;

    public async ValueTask RunAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation)
    {
        string? remark = null;
        if (key is not null)
            remark = await source.HaveItemAsync(tables[0], KeyOf(arguments), cancellation);
        else
            await source.HaveListAsync(tables[0], cancellation);
        for (var i = 1; i < tables.Count; i++)
            await source.HaveListAsync(tables[i], cancellation);
        await inner.RunAsync(arguments, into, cancellation);
        into.Remark = remark;
    }

    public string Shown(IReadOnlyList<TypedValue> arguments) =>
        key is not null ? source.Shown(tables[0], KeyOf(arguments)) : $"{source.ShownList(tables[0])}, as it was last read";

    private List<string> KeyOf(IReadOnlyList<TypedValue> arguments) =>
        [
            .. key!.Select(operand =>
                operand switch
                {
                    Operand.Argument argument => arguments[argument.Number].ToString()!,
                    Operand.Written written => written.Value.ToString()!,
                    _ => "",
                }
            ),
        ];
}
