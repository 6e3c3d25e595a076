using Jexa.Core.Compiler;
using Jexa.Core.Guidance;
using Jexa.Core.Rewriting;
using Jexa.Service.Assets;

namespace Jexa.Service.Workshop;

/// <summary>The language of app files, with the schema that is part of the program.</summary>
public static class AppLanguage
{
    /// <summary>The JSON Schema of app files.</summary>
    internal static Asset SchemaFile { get; } =
        Asset.Embedded("app-file.schema.json", "app-file.schema.json", "application/schema+json");

    private static readonly SchemaTree Schema = new(SchemaFile.Bytes);

    /// <summary>What an editor asks about a text.</summary>
    /// <param name="text">The text as it is in the editor.</param>
    /// <param name="known">The last text that could be read, for the time when this one cannot.</param>
    /// <param name="compilation">The last compilation.</param>
    public static Language Of(string text, FileMap? known, Compilation compilation) => Of(text, null, known, compilation);

    /// <param name="own">What stands where in this text, if that is known.</param>
    internal static Language Of(string text, FileMap? own, FileMap? known, Compilation compilation) =>
        new(Schema, text, own ?? FileMap.Read(text) ?? known, compilation);
}
