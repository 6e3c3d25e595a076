using Jexa.Core.Edits;

namespace Jexa.Service.Workshop;

/// <summary>The seal of forms in a preview: they are shown and never taken, here or by the pages that are served.</summary>
internal sealed class PreviewSeal : IFormSeal
{
    public string Seal(ReadOnlySpan<byte> content) => "preview";

    public byte[]? Open(string text) => null;
}
