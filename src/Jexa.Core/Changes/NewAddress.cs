using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>What the address of a page that makes a record says about the new one.</summary>
/// <param name="Texts">The canonical text of each parameter; null for one that is absent.</param>
/// <param name="Refused">What is wrong with the address; null for nothing.</param>
internal sealed record NewAddress(string?[] Texts, TypedValue?[] Values, Answer? Refused)
{
    /// <summary>The page of the record that the new one belongs to: the way out if there is no list.</summary>
    public PlainLink? Back { get; set; }

    /// <summary>The texts for a form's contract.</summary>
    public string[] Ids => [.. Texts.Select(text => text ?? "")];

    /// <summary>The address with these texts.</summary>
    public string On(NewPage page) =>
        page.Head.Builder.Build([.. Texts.Select(text => text is null ? Array.Empty<string>() : [text])])
        ?? page.Head.AddressWithoutParameters
        ?? "";

    /// <summary>Values for fields that the form does not ask for.</summary>
    public Dictionary<string, TypedValue> OutsideForm(NewPage page)
    {
        var outside = new Dictionary<string, TypedValue>();
        for (var i = 0; i < Values.Length; i++)
            if (Values[i] is { } value && page.Form.Find(page.Parameters[i].Field.Name) is null)
                outside[page.Parameters[i].Field.Name] = value;
        return outside;
    }
}
