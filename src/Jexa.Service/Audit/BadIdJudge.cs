using AngleSharp.Dom;
using Jexa.Core.Audit;
using Jexa.Core.Definitions;

namespace Jexa.Service.Audit;

/// <summary>Judges what an application answers to wrong IDs.</summary>
/// <param name="right">The right address that the wrong ones are made of.</param>
/// <param name="page">Its page.</param>
/// <param name="frame">The words that all pages of records have; none if there is only one.</param>
internal sealed class BadIdJudge(LinkGroup group, RowComparison comparison, Uri right, IDocument page, IReadOnlySet<string> frame)
{
    /// <summary>A page that has this share of the label words, or of what a record says, has the frame, or a record.</summary>
    private const double Most = 0.6;

    /// <summary>A page with less text is blank.</summary>
    private const int Blank = 40;

    /// <summary>What is wrong with an answer.</summary>
    public IEnumerable<AuditFault> Judge(BadId bad, AuditAnswer answer)
    {
        if (
            bad.Shown == BadId.Markup
            && (answer.Body.Contains(BadId.Markup, StringComparison.Ordinal) || answer.Page?.QuerySelector("b#jexa") is not null)
        )
            yield return New(ProofCodes.AuditUnescaped, bad, "the ID stands in the page as it was sent, markup and all");
        if (answer.Status >= 500 || answer.IsSilent)
            yield return New(ProofCodes.AuditServerFault, bad, answer.Trouble ?? $"status {answer.Status}");
        if (bad.IsOnlyForFaults || answer.Status != 200 || answer.Page is not { } shown)
            yield break;
        // Led to the right address, or to a list: that is an answer.
        var isList = ListReading.Groups(shown, answer.Address).Any(one => one.IsLike(group) && one.Rows.Count >= 2);
        if (answer.IsLedOn && (answer.Address.AbsoluteUri == right.AbsoluteUri || isList))
            yield break;
        var says = RecordPageReading.TextOf(shown, answer.Address, group);
        var text = new PageText(says, bad.Shown);
        var (best, most) = comparison.Best(text);
        var fault =
            comparison.IsList(text) ? List(bad)
            : best is not null && most >= RowComparison.Enough ? Record(bad, shown, best)
            : isList ? List(bad)
            : Page(bad, shown, says, text);
        if (fault is not null)
            yield return fault;
    }

    /// <summary>A record of the list is shown.</summary>
    private AuditFault? Record(BadId bad, IDocument shown, ListRow best)
    {
        if (best.Address != right)
            return New(ProofCodes.AuditBadIdShowsRecord, bad, $"shows another record: {AuditNotes.Shown(best)}");
        if (!bad.IsSame)
            return New(ProofCodes.AuditBadIdShowsRecord, bad, $"shows a record: {AuditNotes.Shown(best)}");
        return NamesAnother(shown, bad.Address)
            ? null
            : New(ProofCodes.AuditTwoAddresses, bad, "the same record at a second address, without a redirect", false);
    }

    private AuditFault? List(BadId bad) =>
        bad.Kind is "missing" or "empty"
            ? null
            : New(ProofCodes.AuditSoftMissing, bad, "status 200 with a list, and no word of the ID", false);

    /// <summary>A page with status 200 that shows no record of the list.</summary>
    private AuditFault? Page(BadId bad, IDocument shown, string says, PageText text)
    {
        // Where a script tells pages apart by the fragment, no status can say it.
        if (RecordPageReading.SaysNotFound(says) && RouteAddress.IsFolded(bad.Address))
            return null;
        if (RecordPageReading.SaysNotFound(says))
            return New(ProofCodes.AuditSoftMissing, bad, "status 200, and the page says that nothing was found");
        if (text.Length < Blank)
            return New(ProofCodes.AuditSoftMissing, bad, "status 200 with a blank page");
        if (frame.Count == 0 || RecordPageReading.Frame(shown).Count(frame.Contains) < Most * frame.Count)
            return RouteAddress.IsFolded(bad.Address) ? null : New(ProofCodes.AuditSoftMissing, bad, "status 200", false);
        return Said(shown) >= Most * Said(page)
            ? New(ProofCodes.AuditBadIdShowsRecord, bad, "shows a record that is not in the list")
            : New(ProofCodes.AuditSoftMissing, bad, "status 200 with the frame of a record, and no record in it");
    }

    /// <summary>How much a page says besides its label words.</summary>
    private int Said(IDocument of) =>
        of.Body is { } body ? ListReading.FactsOf(body).Count(fact => !frame.Contains(fact.Text)) : 0;

    /// <summary>Whether a page names another address as its own (RFC 6596).</summary>
    private static bool NamesAnother(IDocument shown, Uri address) =>
        shown.QuerySelector("link[rel=canonical][href]")?.GetAttribute("href") is { } named
        && Uri.TryCreate(address, named, out var canonical)
        && canonical.PathAndQuery != address.PathAndQuery;

    private AuditFault New(FindingCode code, BadId bad, string says, bool isCertain = true) =>
        new(code, group.Pattern, bad.Kind, bad.Address, says, isCertain);
}
