using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;

namespace Jexa.Core.Lists;

/// <summary>
/// What the address of a record says about the list that the visitor comes from: the list's name, its parameters and controls,
/// and the place in it, never a URL. <c>from=bridges</c>, or <c>from=bridges?kind=arch&amp;after=…</c>, percent-encoded. If it
/// cannot be read, it is ignored; the record is the same.
/// </summary>
internal static class FromMark
{
    private const int MaxLength = 3000;

    /// <summary>The mark for <c>from=</c>, percent-encoded; empty if it would be too long.</summary>
    /// <param name="window">The control of the window and its value; null to name no place.</param>
    public static string Write(ListAsk ask, (string Name, string Value)? window)
    {
        var mark = new StringBuilder(ask.Page.Name);
        for (var i = 0; i < ask.Texts.Count; i++)
            foreach (var text in ask.Texts[i])
                Add(ask.Page.Parameters[i].Name, text);
        if (ask.Find is { } find)
            Add(ParameterReader.Find, find);
        if (ask.Order.Length > 0)
            Add(ParameterReader.Order, ask.Order);
        if (ask.Request.Size != ask.Page.Size)
            Add(ParameterReader.Size, ask.Request.Size.ToString());
        if (window is var (name, value))
            Add(name, value);
        var encoded = Encoded(mark.ToString());
        return encoded.Length <= MaxLength ? encoded : "";

        void Add(string name, string value) =>
            mark.Append(mark.Length == ask.Page.Name.Length ? '?' : '&').Append(name).Append('=').Append(Encoded(value));
    }

    /// <summary>The question in the mark of a target; null if there is none, or if it names no list of these records.</summary>
    public static ListAsk? Read(Site site, SiteRecord record, RequestTarget target, ListCursor cursors)
    {
        if (
            ParameterReader.FromQuery(target.Query, ParameterReader.From)
            is not { Fault: Keys.KeyFault.None, Text: { Length: > 0 and <= MaxLength } mark }
        )
            return null;
        var question = mark.IndexOf('?');
        if (site.Find(question < 0 ? mark : mark[..question]) is not ListPage page || page.Record != record)
            return null;
        var pairs = question < 0 ? [] : RequestTarget.Pairs(mark.AsSpan(question + 1));
        return ListReader.Read(page, pairs, parameter => ParameterReader.FromQuery(pairs, parameter.Name), cursors, null).Ask;
    }

    private static string Encoded(string text)
    {
        using var into = new Utf8Buffer(64);
        PercentCoding.Encode(Encoding.UTF8.GetBytes(text), into);
        return into.ToString();
    }
}
