using System.Globalization;
using Jexa.Core.Definitions;
using Jexa.Core.Files;
using Jexa.Core.Formats;
using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles what is around every page: conventions, texts and files of the app.</summary>
internal sealed class FrameCompiler(AppDefinition definition, FindingList findings)
{
    private const int MaxText = 256 * 1024;

    public Conventions Conventions()
    {
        var culture = CultureInfo.InvariantCulture;
        if (definition.Locale is { } locale)
        {
            try
            {
                culture = CultureInfo.GetCultureInfo(locale.Value, predefinedOnly: true);
            }
            catch (CultureNotFoundException)
            {
                findings.Add(
                    FindingCodes.UnknownZone,
                    locale.At,
                    $"This machine knows no locale “{locale}”.",
                    "Write a language tag, such as en-GB, that the machine's locale data (ICU) has.",
                    found: locale.Value,
                    expected: "a language tag (BCP 47)"
                );
            }
        }

        if (definition.Zone is not { } zone)
            return new Conventions(culture, null);
        if (TimeZoneInfo.TryFindSystemTimeZoneById(zone.Value, out var found))
            return new Conventions(culture, found);
        findings.Add(
            FindingCodes.UnknownZone,
            zone.At,
            $"There is no time zone “{zone}”.",
            "Write a name of the IANA time zone database, such as Etc/UTC.",
            found: zone.Value,
            expected: "a name of the IANA time zone database"
        );
        return new Conventions(culture, null);
    }

    public FrameTexts Texts(IEnumerable<SiteRecord> records)
    {
        var styles = records.SelectMany(record => record.Fields).Select(field => field.Style).ToList();
        return new FrameTexts(
            TextOf(definition.Frame.Header) ?? "",
            TextOf(definition.Frame.Footer) ?? "",
            FileOf(definition.Frame.Logo, [".svg", ".png", ".jpg", ".jpeg", ".webp"]),
            FileOf(definition.Frame.Style, [".css"])
        )
        {
            Theme = definition.Frame.Theme,
            Rows = definition.Frame.Rows,
            TellsLoading = definition.Frame.TellsLoading,
            Prefetches = definition.Frame.Prefetches,
            PictureOrigins = Origins(styles.Where(style => style.Form == FieldForm.Picture)),
            RecordingOrigins = Origins(styles.Where(style => style.Form.IsRecording())),
            PlayerOrigins = [.. styles.Select(style => style.Player?.Origin).OfType<string>().Distinct()],
        };
    }

    /// <summary>The origins that the files of these fields are loaded from, as a security policy names them.</summary>
    private static IReadOnlyList<string> Origins(IEnumerable<ValueStyle> styles) =>
        [
            .. styles
                .Select(style => style.Files)
                .OfType<FilePlace>()
                .Where(place => place.Folder is null)
                .Select(place => place.Base?.GetLeftPart(UriPartial.Authority) ?? "https: http:")
                .Distinct(),
        ];

    /// <summary>Markdown in the app file, or in a file that it names.</summary>
    public string? TextOf(Written? text)
    {
        if (text is null)
            return null;
        if (!text.Value.EndsWith(".md", StringComparison.Ordinal) || text.Value.Contains('\n'))
            return text.Value;
        if (definition.Texts.TryGetValue(text.Value, out var trial))
            return trial;
        if (FileOf(text, [".md"]) is not { } file)
            return null;
        try
        {
            if (new FileInfo(file).Length <= MaxText)
                return PlainFile.ReadAllText(file);
            findings.Add(
                FindingCodes.TextTooLong,
                text.At,
                $"The file {text} has more than {MaxText / 1024} kB.",
                "Make several pages of it.",
                found: text.Value
            );
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException)
        {
            findings.Add(
                FindingCodes.FileAway,
                text.At,
                $"The file {text} cannot be read.",
                "Let the account that Jexa runs under read it.",
                found: text.Value
            );
        }

        return null;
    }

    private string? FileOf(Written? name, string[] endings)
    {
        if (name is null)
            return null;
        var file = Path.GetFullPath(name.Value, definition.Folder);
        if (endings.Contains(Path.GetExtension(file)) && File.Exists(file))
            return file;
        findings.Add(
            FindingCodes.FileAway,
            name.At,
            $"There is no file “{name}” of such a kind beside the app file.",
            $"Write the name of a file that ends in {string.Join(" or ", endings)}.",
            found: name.Value,
            expected: "a file, relative to the app file's folder"
        );
        return null;
    }
}
