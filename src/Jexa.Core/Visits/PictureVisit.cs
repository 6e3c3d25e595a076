using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>Where a picture is.</summary>
/// <param name="Name">As the record says it: untrusted.</param>
public sealed record PictureFile(string Folder, string Name);

/// <summary>
/// Finds a picture by record kind, field and ID (<c>/_jexa/pictures/bridge/photo/7</c>): it is there exactly where its record
/// may be seen.
/// </summary>
internal sealed class PictureVisit(QueryRunner queries)
{
    private const int SegmentsBeforeId = 4;

    public static bool IsAsked(RequestTarget target) =>
        target.IsReserved && target.Segments.Length > SegmentsBeforeId && target.Text(1).SequenceEqual(PictureLookup.Segment);

    public async ValueTask<PictureFile?> RunAsync(Site site, RequestTarget target, VisitTrace trace, CancellationToken cancellation)
    {
        if (!IsAsked(target) || Find(site, target) is not { } picture || target.Segments.Length != SegmentsBeforeId + picture.Lookup.Keys.Count) return null;
        var keys = new Constant[picture.Lookup.Keys.Count];
        for (var i = 0; i < keys.Length; i++)
        {
            var reading = target.Segments[SegmentsBeforeId + i].IsBad ? default : picture.Lookup.Keys[i].Read(target.Text(SegmentsBeforeId + i));
            if (reading.Value is not { } value || !reading.IsCanonical) return null;
            keys[i] = value;
        }

        using var loans = queries.Begin();
        var rows = loans.Lend(picture.Lookup.Load.Width);
        await queries.RunAsync(picture.Lookup.Load, keys, rows, trace, cancellation);
        var decision = Loading.Decide(picture.Lookup, rows, keys);
        if (decision.Outcome is not Outcome.Found || rows[decision.Row][picture.Ordinal].Kind != CellKind.Text) return null;
        return new PictureFile(picture.Folder, rows[decision.Row].Text(picture.Ordinal));
    }

    private static PictureLookup? Find(Site site, RequestTarget target)
    {
        foreach (var picture in site.Pictures)
            if (target.Text(2).SequenceEqual(picture.Record.Name) && target.Text(3).SequenceEqual(picture.Field.Name)) return picture;
        return null;
    }
}
