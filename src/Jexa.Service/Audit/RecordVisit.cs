using Jexa.Core.Audit;

namespace Jexa.Service.Audit;

/// <summary>The page of a row.</summary>
/// <param name="Frame">The words of its leaves.</param>
/// <param name="IsRight">Whether it is about its row.</param>
/// <param name="Best">The row that it speaks of most.</param>
/// <param name="Pictures">Its pictures on the same origin.</param>
/// <param name="Edit">Where the record is edited; null for nowhere.</param>
internal sealed record RecordVisit(
    ListRow Row,
    AuditAnswer Answer,
    PageText Text,
    IReadOnlySet<string> Frame,
    string Title,
    bool IsRight,
    ListRow? Best,
    IReadOnlyList<Uri> Pictures,
    Uri? Edit
)
{
    /// <summary>What the page says, as it is written.</summary>
    public string Said { get; init; } = "";

    /// <summary>The share of the row's facts that the page says besides its title.</summary>
    public double Below { get; init; }

    /// <summary>Whether a page asks to sign in.</summary>
    public bool AsksToSignIn { get; init; }

    /// <summary>
    /// What an answer is as the page of a row; null if it is none. Pictures and where it is edited are read before the page is
    /// taken apart.
    /// </summary>
    public static RecordVisit? Of(LinkGroup group, RowComparison comparison, ListRow row, AuditAnswer answer)
    {
        if (answer.Page is not { } page || answer.Status >= 400)
            return null;
        var pictures = RecordPageReading.PicturesOf(page, answer.Address);
        var edit = FormReading.EditOf(page, answer.Address);
        var asks = RecordPageReading.AsksToSignIn(page);
        var frame = RecordPageReading.Frame(page);
        var said = RecordPageReading.TextOf(page, answer.Address, group);
        var text = new PageText(said);
        var (best, most) = comparison.Best(text);
        var own = comparison.Score(row, text);
        return new RecordVisit(
            row,
            answer,
            text,
            frame,
            page.Title ?? "",
            comparison.CanTell(row) && own >= RowComparison.Enough && most < own + RowComparison.Ahead,
            best,
            pictures,
            edit
        )
        {
            AsksToSignIn = asks,
            Said = said,
            Below = comparison.Score(row, new PageText(said[(page.Title ?? "").Length..])),
        };
    }
}
