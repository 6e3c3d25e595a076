using Jexa.Core.Definitions;
using Jexa.Core.Sites;

namespace Jexa.Core.Proof;

/// <summary>Where the app file says what a fault is about.</summary>
internal sealed class FaultPlaces(AppDefinition definition)
{
    /// <summary>The place of a field, or of its record.</summary>
    public Place Of(SiteRecord record, string? field = null)
    {
        var said = definition.Records.FirstOrDefault(one => one.Name.Value == record.Name);
        var place = said?.Fields.FirstOrDefault(one => one.Name.Value == field)?.Name ?? said?.Name;
        return place?.At ?? new Place(definition.File, 1, 1);
    }

    /// <summary>The place of a page's link to another page, or of the page.</summary>
    public static Place Of(Page page, string? to = null)
    {
        var said = page.Head.Definition;
        return (said.Links.FirstOrDefault(link => link.To.Value == to)?.To ?? said.Name).At;
    }
}
