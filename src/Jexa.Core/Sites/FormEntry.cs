using Jexa.Core.Edits;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A field of a form and what belongs to it.</summary>
/// <param name="Shown">How its value is shown and written as JSON; null in the form of a new record.</param>
/// <param name="Picture">Where the picture is that it names; null for none.</param>
public sealed record FormEntry(FormField Field, SiteField Of, ReferenceChoices? Reference, ViewColumn? Shown, FilePlan? Picture)
{
    /// <summary>The name of the field.</summary>
    public string Name => Field.Name;
}
