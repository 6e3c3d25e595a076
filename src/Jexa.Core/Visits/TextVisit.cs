using System.Text;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Visits;

/// <summary>Visits a text page: its text, with what the address says in its holes.</summary>
internal static class TextVisit
{
    /// <summary>What has a meaning in Markdown: what an address says is never obeyed.</summary>
    private const string Marks = "\\`*_{}[]()<>#+-.!|~&:/@\"'";

    public static Answer Run(Site site, TextPage page, RequestTarget target, VisitTrace trace)
    {
        var texts = new Dictionary<string, string>();
        foreach (var parameter in page.Parameters)
        {
            var raw = ParameterReader.Read(target, parameter);
            var reading = raw.Fault != KeyFault.None ? KeyReading.Failed(raw.Fault) : string.IsNullOrEmpty(raw.Text) ? default : parameter.Key.Read(raw.Text);
            trace.Add(new TracedParameter(parameter.Name, raw.Text, reading));
            if (reading.Fault != KeyFault.None) return Answer.Of(new Outcome.Malformed(parameter.Name, reading.Fault), Messages.BadTarget(site));
            if (reading.Value is null && parameter.Required) return Answer.Of(new Outcome.Missing(parameter.Name), Messages.NoPage(site, target));
            texts[parameter.Name] = raw.Text ?? "";
        }

        foreach (var pair in target.Query)
            if (!texts.ContainsKey(pair.Name)) trace.AddIgnored(pair.Name);
        trace.End(VisitStep.Parse);
        var heading = TextPage.Fill(page.Title, name => texts.GetValueOrDefault(name, ""));
        return new Answer(new Outcome.Shown(), 200, new TextView(site.Frame, page.Name, heading, TextPage.Fill(page.Source, name => Escaped(texts.GetValueOrDefault(name, "")))));
    }

    private static string Escaped(string text)
    {
        var safe = new StringBuilder(text.Length + 8);
        foreach (var c in text)
        {
            if (Marks.Contains(c)) safe.Append('\\');
            safe.Append(char.IsControl(c) ? ' ' : c);
        }

        return safe.ToString();
    }
}
