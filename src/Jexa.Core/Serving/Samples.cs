using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Serving;

/// <summary>Finds addresses of a page that lead to visible records, for developers who want to try the page.</summary>
public static class Samples
{
    /// <summary>The address of the first record that has one; null if no record of the page has an address.</summary>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public static async ValueTask<SampleAddress?> FirstAsync(Page page, CancellationToken cancellation)
    {
        return await ManyAsync(page, 1, cancellation) is [var first, ..] ? first : null;
    }

    /// <summary>The addresses of the first records that have one.</summary>
    /// <param name="most">The most addresses.</param>
    /// <exception cref="SourceException">The source is away, too slow or refused.</exception>
    public static async ValueTask<IReadOnlyList<SampleAddress>> ManyAsync(Page page, int most, CancellationToken cancellation)
    {
        if (page.Head.AddressWithoutParameters is { } address)
            return [new SampleAddress(address, [])];
        if (page.Samples is not { } samples)
            return [];
        var rows = new RowBlock();
        rows.Reset(samples.Query.Width);
        await samples.Query.RunAsync([], rows, cancellation);
        var found = new List<SampleAddress>();
        for (var i = 0; i < rows.Count && found.Count < most; i++)
            if (Of(page, samples, rows[i]) is { } sample)
                found.Add(sample);
        return found;
    }

    private static SampleAddress? Of(Page page, SamplePlan samples, Row row)
    {
        using var text = new Utf8Buffer(128);
        var ids = new string?[page.Parameters.Count];
        for (var i = 0; i < ids.Length; i++)
        {
            if (samples.Ordinals[i] < 0)
                continue;
            text.Truncate(0);
            if (!page.Parameters[i].Key.TryWrite(row, samples.Ordinals[i], text))
                return null;
            ids[i] = text.ToString();
        }

        text.Truncate(0);
        if (!page.Head.Builder.TryBuild(new GivenTexts(ids), text))
            return null;
        var address = text.ToString();
        return page.Head.OwnsAddress?.Invoke(address) == false
            ? null
            : new SampleAddress(address, [.. ids.Select(id => id ?? "")]);
    }
}
