using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>The pieces of a detail page's HTML that are the same for every visit.</summary>
/// <param name="Terms">Each field's label, up to its value.</param>
/// <param name="NextTerms">The same behind another field: what closes that, then the label.</param>
internal sealed record DetailParts(byte[][] Terms, byte[][] NextTerms, ViewColumn[] Fields);
