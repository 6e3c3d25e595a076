using Jexa.Core.Visits;

namespace Jexa.Service.Writing;

/// <summary>All representations of pages. A request that accepts anything gets the first.</summary>
internal sealed class PageWriters(params IReadOnlyList<IPageWriter> all)
{
    public IReadOnlyList<IPageWriter> All => all;

    public IPageWriter Usual => all[0];

    /// <summary>The representation for programs that do not ask for one.</summary>
    public IPageWriter ForPrograms { get; } = all.First(writer => writer.Reader == Reader.Program);

    /// <summary>The media types in a sentence, for a request that accepts none of them.</summary>
    public string Named => string.Join(" and as ", all.Select(writer => writer.MediaTypes[0]));
}
