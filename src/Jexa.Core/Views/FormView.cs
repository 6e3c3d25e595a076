using Jexa.Core.Edits;
using Jexa.Core.Values;

namespace Jexa.Core.Views;

/// <summary>A value that can be chosen in one visit.</summary>
public sealed record FormOption(string Value, string Label, bool IsSelected);

/// <summary>A field that somebody else changed meanwhile.</summary>
/// <param name="Mine">What the visitor wrote; null where the visitor left it alone.</param>
public sealed record FormClash(string Was, string Theirs, string? Mine);

/// <summary>A field of a form in one visit.</summary>
/// <param name="Text">What stands in it.</param>
/// <param name="Faults">What is wrong with that.</param>
/// <param name="Options">What can be chosen; empty for a field that is typed.</param>
/// <param name="Search">What records were looked for by; null where none are searched for.</param>
/// <param name="SearchNote">What became of the search.</param>
/// <param name="Picture">The address of the picture it names now; null for none.</param>
/// <param name="Fixed">What is shown in its stead where the address decides it; null for a field that can be changed.</param>
public sealed record FormInput(
    FormField Field,
    string Text,
    IReadOnlyList<string> Faults,
    IReadOnlyList<FormOption> Options,
    string? Search,
    string? SearchNote,
    string? Picture,
    FormClash? Clash,
    string? Fixed
)
{
    public string Name => Field.Name;

    /// <summary>The text is what somebody typed, and not to be written as the app writes numbers.</summary>
    public bool IsAsTyped { get; init; }

    public bool IsMultiline =>
        Field.Input == InputKind.LongText || (Field.Input is InputKind.Text or InputKind.Picture && Text.Contains('\n'));
}

/// <summary>What is wrong with what was sent.</summary>
/// <param name="Field">Null for the form as a whole.</param>
public sealed record FormFault(FormInput? Field, string Text);

/// <summary>A form, as it stands in one visit.</summary>
/// <param name="Outcome">The outcome's word.</param>
/// <param name="Action">Where it is sent.</param>
/// <param name="Contract">Sealed.</param>
/// <param name="Notice">What the visitor must know first; null for nothing.</param>
/// <param name="Faults">Those of the fields in their order, then those of the whole.</param>
/// <param name="Submit">What the button says.</param>
/// <param name="Cancel">The way out without saving.</param>
/// <param name="Row">The record as it is; null for a new one.</param>
/// <param name="Own">Writes the record's ID and address.</param>
/// <param name="Stored">The fields as JSON tells them.</param>
public sealed record FormView(
    PageFrame Frame,
    string Page,
    string Outcome,
    int Status,
    string Heading,
    string Action,
    string Contract,
    string? Notice,
    IReadOnlyList<FormInput> Inputs,
    IReadOnlyList<FormFault> Faults,
    string Submit,
    PlainLink? Cancel,
    IReadOnlyList<PlainLink> Links,
    PlainLink? Back,
    Row? Row,
    LinkPlan? Own,
    IReadOnlyList<ViewColumn> Stored
) : PageView(Frame, Page)
{
    /// <summary>Members of a JSON body that cannot be taken, by JSON Pointer.</summary>
    public IReadOnlyList<(string Pointer, string Text)> Strays { get; init; } = [];

    /// <summary>
    /// Fields that two people changed, and whose value was chosen to stay; null where that is still to be chosen.
    /// </summary>
    public IReadOnlyDictionary<string, string?> Undecided { get; init; } = new Dictionary<string, string?>();
}

/// <summary>Records that refer to one that is to be deleted.</summary>
/// <param name="What">What they are called, in the number they have.</param>
/// <param name="Rule">What becomes of them.</param>
public sealed record Dependents(string What, Total Total, Schemas.DeleteRule Rule);

/// <summary>Asks a second time whether a record is to be deleted.</summary>
/// <param name="IsPossible">The source would let it go, as far as can be seen.</param>
public sealed record DeleteView(
    PageFrame Frame,
    string Page,
    string Outcome,
    int Status,
    DetailShape Shape,
    Row Record,
    string Action,
    string Contract,
    string? Notice,
    IReadOnlyList<Dependents> Dependents,
    bool IsPossible,
    PlainLink? Cancel,
    IReadOnlyList<ViewColumn> Stored
) : PageView(Frame, Page);

/// <summary>What a program is told of a change that was made.</summary>
/// <param name="Id">As it stands in addresses; null where no page shows the record.</param>
public sealed record SavedView(PageFrame Frame, string Page, string? Id, string Address) : PageView(Frame, Page);
