using Jexa.Core.Addresses;
using Jexa.Core.Formats;

namespace Jexa.Core.Views;

/// <summary>What stands around every page of an app.</summary>
/// <param name="Addresses">The addresses of all pages that can be opened by themselves, by name: texts lead to them so.</param>
public sealed record PageFrame(
    string AppTitle,
    string HomeAddress,
    Mount Mount,
    IReadOnlyList<PlainLink> Menu,
    Conventions Conventions,
    FrameTexts Texts,
    IReadOnlyDictionary<string, string> Addresses
);
