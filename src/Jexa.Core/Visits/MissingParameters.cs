using Jexa.Core.Addresses;
using Jexa.Core.Sites;

namespace Jexa.Core.Visits;

/// <summary>What an address that lacks a parameter comes to.</summary>
internal static class MissingParameters
{
    /// <summary>Leads a person to a list, which says what was missing.</summary>
    public static Answer LeadTo(PageHead list, Page page, Outcome.Missing outcome) =>
        new(
            outcome,
            302,
            null,
            AddressQuery.With(list.AddressWithoutParameters!, ParameterReader.Lacking, $"{page.Name}.{outcome.Parameter}")
        );

    /// <summary>The status of an answer in words.</summary>
    /// <param name="written">What the app file says; null if it says nothing.</param>
    public static int StatusFor(VisitRequest request, int? written) => written ?? (request.Reader == Reader.Program ? 400 : 404);
}
