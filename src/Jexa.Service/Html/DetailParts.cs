using Jexa.Core.Views;

namespace Jexa.Service.Html;

/// <summary>The pieces of a detail page's HTML that are the same for every visit.</summary>
/// <param name="Terms">Each field's label, and all before its value.</param>
/// <param name="NextTerms">The same after another field, whose element it closes.</param>
internal sealed record DetailParts(byte[][] Terms, byte[][] NextTerms, ViewColumn[] Fields);
