using Jexa.Core.Addresses;
using Jexa.Core.Formats;

namespace Jexa.Core.Views;

/// <summary>What is around every page of an app.</summary>
/// <param name="Addresses">The addresses of pages without required parameters, by name, for links in texts.</param>
public sealed record PageFrame(
    string AppTitle,
    string HomeAddress,
    Mount Mount,
    IReadOnlyList<PlainLink> Menu,
    Conventions Conventions,
    FrameTexts Texts,
    IReadOnlyDictionary<string, string> Addresses
);
