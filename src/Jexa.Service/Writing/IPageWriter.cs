using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Service.Writing;

/// <summary>Writes pages in one representation. <see cref="PageWriters"/> has all of them.</summary>
internal interface IPageWriter
{
    /// <summary>The media types of an Accept header that ask for this representation.</summary>
    IReadOnlyList<string> MediaTypes { get; }

    /// <summary>Who reads it.</summary>
    Reader Reader { get; }

    /// <summary>
    /// Whether records are changed by this representation. Its entity tag is then the record's version, and it is sent in one
    /// coding only.
    /// </summary>
    bool CarriesVersion { get; }

    /// <summary>Tells its entity tags from those of the same page in another representation.</summary>
    char Letter { get; }

    /// <summary>The Content-Type of an answer with this status.</summary>
    string ContentType(int status);

    /// <summary>Writes a whole view. Nothing is sent before all of it is written.</summary>
    /// <param name="page">The page that was visited; null if none was.</param>
    /// <param name="target">The requested target, as it was sent.</param>
    void Write(PageView view, Page? page, string target, Utf8Buffer body);
}
