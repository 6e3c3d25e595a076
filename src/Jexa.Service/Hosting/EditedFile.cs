using Jexa.Core.Compiler;
using Jexa.Core.Rewriting;

namespace Jexa.Service.Hosting;

/// <summary>What named changes make of an app file.</summary>
/// <param name="Text">The changed text.</param>
/// <param name="Version">Tells this text from all others: SHA-256 in hexadecimal digits.</param>
/// <param name="IsSaved">Whether the file has the changed text now.</param>
/// <param name="Lines">What differs from the file as it was.</param>
/// <param name="Texts">Markdown files that the app file names, and that are changed too.</param>
/// <param name="Compilation">The changed text, compiled.</param>
public sealed record EditedFile(
    string Text,
    string Version,
    bool IsSaved,
    IReadOnlyList<LineDifference> Lines,
    IReadOnlyList<EditedText> Texts,
    Compilation Compilation
);
