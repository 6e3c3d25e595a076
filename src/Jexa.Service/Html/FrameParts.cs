namespace Jexa.Service.Html;

/// <summary>The pieces of a frame's HTML that are the same on every page of an app.</summary>
/// <param name="BeforeTitle">Up to the opening tag of the title.</param>
/// <param name="AfterTitle">The app's name in the title, and what the head of every page has.</param>
/// <param name="AfterHead">The end of the head, and the header up to the menu.</param>
/// <param name="Header">The app's own header; empty for none.</param>
/// <param name="Footer">The app's own footer; empty for none.</param>
internal sealed record FrameParts(
    byte[] BeforeTitle,
    byte[] AfterTitle,
    byte[] AfterHead,
    IReadOnlyList<(string Page, byte[] Open, byte[] Close)> Menu,
    byte[] Header,
    byte[] Footer
);
