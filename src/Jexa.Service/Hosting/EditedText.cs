using Jexa.Core.Rewriting;

namespace Jexa.Service.Hosting;

/// <summary>A Markdown file beside the app file, with its links to a renamed page changed.</summary>
/// <param name="Name">Its name in the app file.</param>
public sealed record EditedText(string Name, string Text, IReadOnlyList<LineDifference> Lines);
