using System.Text;
using Jexa.Core.Keys;
using Jexa.Core.Lists;
using Jexa.Core.Sites;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Serving;

/// <summary>Visits a text page: its text, with values from the address in its holes.</summary>
internal sealed class TextVisit(QueryRunner queries)
{
    /// <summary>Longer searches find nothing more.</summary>
    private const int MaxFind = 200;

    private readonly ListIndexVisit _lists = new(queries);

    private readonly FindVisit _finds = new(queries);

    /// <summary>Characters with a meaning in Markdown. They are escaped in values from the address.</summary>
    private const string Marks = "\\`*_{}[]()<>#+-.!|~&:/@\"'";

    public async ValueTask<Answer> RunAsync(Visit visit, TextPage page)
    {
        var (site, target, trace) = (visit.Site, visit.Target, visit.Trace);
        var texts = new Dictionary<string, string>();
        foreach (var parameter in page.Parameters)
        {
            var raw = ParameterReader.Read(target, parameter);
            var reading = ParameterReader.Value(raw, parameter.Key);
            trace.Add(new TracedParameter(parameter.Name, raw.Text, reading));
            if (reading.Fault != KeyFault.None)
                return Answer.Of(new Outcome.Malformed(parameter.Name, reading.Fault), Messages.BadTarget(site));
            if (reading.Value is null && parameter.Required)
                return Answer.Of(new Outcome.Missing(parameter.Name), Messages.NoPage(site, target));
            texts[parameter.Name] = raw.Text ?? "";
        }

        var find = page.Lists.Count == 0 ? "" : ParameterReader.FromQuery(target.Query, ParameterReader.Find).Text?.Trim() ?? "";
        if (find.Length > MaxFind)
            find = find[..MaxFind];
        foreach (var pair in target.Query.Where(pair => pair.Name != ParameterReader.Find || !Asks(page)))
            if (!texts.ContainsKey(pair.Name))
                trace.AddIgnored(pair.Name);
        trace.End(VisitStep.Parse);
        var heading = TextPage.Fill(page.Title, name => texts.GetValueOrDefault(name, ""));
        var lists =
            page.Lists.Count == 0
                ? null
                : new ListIndexView(target.Raw.Split('?')[0], find, await _lists.RunAsync(visit, page, find));
        return new Answer(
            new Outcome.Shown(),
            200,
            new TextView(
                site.Frame,
                page.Name,
                heading,
                TextPage.Fill(page.Source, name => Escaped(texts.GetValueOrDefault(name, "")))
            )
            {
                Lists = lists,
                Found = page.Searched.Count == 0 ? null : await _finds.RunAsync(visit, page),
            }
        );
    }

    /// <summary>Whether the page has a search.</summary>
    private static bool Asks(TextPage page) => page.Lists.Count > 0 || page.Searched.Count > 0;

    private static string Escaped(string text)
    {
        var safe = new StringBuilder(text.Length + 8);
        foreach (var c in text)
        {
            if (Marks.Contains(c))
                safe.Append('\\');
            safe.Append(char.IsControl(c) ? ' ' : c);
        }

        return safe.ToString();
    }
}
