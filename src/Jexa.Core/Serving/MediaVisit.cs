using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Serving;

/// <summary>
/// Finds a file or bytes by record kind, field and ID (<c>/_jexa/pictures/bridge/photo/7</c>,
/// <c>/_jexa/bytes/bridge/plan/7</c>). It finds them only if the field itself may be seen.
/// </summary>
internal sealed class MediaVisit(QueryRunner queries)
{
    private const int SegmentsBeforeId = 4;

    public static bool IsAsked(RequestTarget target) =>
        target.IsReserved
        && target.Segments.Length > SegmentsBeforeId
        && MediaLookup.Segments.Contains(target.Text(1).ToString());

    public async ValueTask<MediaFile?> RunAsync(Site site, RequestTarget target, VisitTrace trace, CancellationToken cancellation)
    {
        if (
            !IsAsked(target)
            || Find(site, target) is not { } media
            || target.Segments.Length != SegmentsBeforeId + media.Lookup.Keys.Count
        )
            return null;
        var keys = new TypedValue[media.Lookup.Keys.Count];
        for (var i = 0; i < keys.Length; i++)
        {
            var reading = target.Segments[SegmentsBeforeId + i].IsBad
                ? default
                : media.Lookup.Keys[i].Read(target.Text(SegmentsBeforeId + i));
            if (reading.Value is not { } value || !reading.IsCanonical)
                return null;
            keys[i] = value;
        }

        using var loans = queries.Begin();
        var rows = loans.Lend(media.Lookup.Load.Width);
        await queries.RunAsync(media.Lookup.Load, keys, rows, trace, cancellation);
        var decision = Loading.Decide(media.Lookup, rows, keys);
        if (decision.Outcome is not Outcome.Found || media.When?.Invoke(rows[decision.Row]) == false)
            return null;
        var row = rows[decision.Row];
        return row[media.Ordinal].Kind switch
        {
            CellKind.Text when media.Folder is { } folder => new MediaFile(
                media.Field.Style.Form,
                folder,
                row.Text(media.Ordinal),
                null
            ),
            CellKind.Bytes when media.Folder is null => new MediaFile(
                media.Field.Style.Form,
                null,
                string.Join(
                    '-',
                    keys.Select((key, i) => media.Lookup.Keys[i].Write(key)).Prepend(media.Field.Name).Prepend(media.Record.Name)
                ),
                row.Run(media.Ordinal).ToArray()
            ),
            _ => null,
        };
    }

    private static MediaLookup? Find(Site site, RequestTarget target)
    {
        foreach (var media in site.Media)
            if (
                target.Text(1).SequenceEqual(media.Segment)
                && target.Text(2).SequenceEqual(media.Record.Name)
                && target.Text(3).SequenceEqual(media.Field.Name)
            )
                return media;
        return null;
    }
}
