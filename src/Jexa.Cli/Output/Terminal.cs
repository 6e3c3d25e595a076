using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using Spectre.Console;

namespace Jexa.Cli.Output;

/// <summary>
/// Where commands write. Colours only on a terminal, and never under NO_COLOR. In a pipe no borders and no wrapping, so that
/// other programs can read the lines.
/// </summary>
internal static class Terminal
{
    private const int PipeWidth = 100_000;

    private static readonly JsonSerializerOptions JsonOptions = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>Standard output, or standard error, as a console for formatted text.</summary>
    public static IAnsiConsole Console(TextWriter writer, bool isRedirected)
    {
        var plain =
            isRedirected
            || !string.IsNullOrEmpty(Environment.GetEnvironmentVariable("NO_COLOR"))
            || Environment.GetEnvironmentVariable("TERM") is null or "dumb";
        var console = AnsiConsole.Create(
            new AnsiConsoleSettings
            {
                Ansi = plain ? AnsiSupport.No : AnsiSupport.Yes,
                ColorSystem = plain ? ColorSystemSupport.NoColors : ColorSystemSupport.Standard,
                Interactive = InteractionSupport.No,
                Out = new AnsiConsoleOutput(writer),
                Enrichment = new ProfileEnrichment { UseDefaultEnrichers = false },
            }
        );
        if (isRedirected)
            console.Profile.Width = PipeWidth;
        return console;
    }

    public static IAnsiConsole Out() => Console(System.Console.Out, System.Console.IsOutputRedirected);

    public static IAnsiConsole Error() => Console(System.Console.Error, System.Console.IsErrorRedirected);

    /// <summary>Standard error for progress bars and the like; null if it is not a terminal.</summary>
    public static IAnsiConsole? Live() =>
        System.Console.IsErrorRedirected || Environment.GetEnvironmentVariable("TERM") is null or "dumb"
            ? null
            : AnsiConsole.Create(
                new AnsiConsoleSettings
                {
                    Ansi = AnsiSupport.Yes,
                    ColorSystem = string.IsNullOrEmpty(Environment.GetEnvironmentVariable("NO_COLOR"))
                        ? ColorSystemSupport.Standard
                        : ColorSystemSupport.NoColors,
                    Interactive = InteractionSupport.Yes,
                    Out = new AnsiConsoleOutput(System.Console.Error),
                }
            );

    /// <summary>
    /// A text from outside, safe for a terminal: control characters, line breaks and changes of writing direction are shown as
    /// their numbers, so that no text can look like a line of ours.
    /// </summary>
    public static string Shown(string text)
    {
        if (!text.Any(IsObeyed))
            return text;
        var shown = new StringBuilder();
        foreach (var c in text)
        {
            if (IsObeyed(c))
                shown.Append(CultureInfo.InvariantCulture, $"\\u{(int)c:x4}");
            else
                shown.Append(c);
        }

        return shown.ToString();
    }

    /// <summary>The same inside the markup of formatted text.</summary>
    public static string Escaped(string text) => Markup.Escape(Shown(text));

    /// <summary>A message of several lines, each of which may contain text from outside.</summary>
    public static string Lines(string message) => string.Join('\n', message.Split('\n').Select(Shown));

    private static bool IsObeyed(char c) =>
        char.IsControl(c)
        || CharUnicodeInfo.GetUnicodeCategory(c)
            is UnicodeCategory.Format
                or UnicodeCategory.LineSeparator
                or UnicodeCategory.ParagraphSeparator;

    public static void Json<T>(T value) => System.Console.Out.WriteLine(JsonSerializer.Serialize(value, JsonOptions));

    /// <summary>A table with a heading row; columns two blanks apart, no lines.</summary>
    public static Table Table(params string[] headings)
    {
        var table = new Table { Border = TableBorder.None, ShowHeaders = true };
        foreach (var heading in headings)
            table.AddColumn(new TableColumn($"[bold]{Markup.Escape(heading)}[/]").PadLeft(0).PadRight(2));
        return table;
    }
}
