namespace Jexa.Core.Views;

/// <summary>Records that refer to one that is to be deleted.</summary>
/// <param name="What">What they are called, in the number they have.</param>
/// <param name="Rule">What becomes of them.</param>
public sealed record Dependents(string What, Total Total, Schemas.DeleteRule Rule);
