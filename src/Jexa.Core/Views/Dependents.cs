namespace Jexa.Core.Views;

/// <summary>Records that refer to the one to be deleted.</summary>
/// <param name="What">Their name, singular or plural, such as “inspections”.</param>
/// <param name="Rule">What happens to them.</param>
public sealed record Dependents(string What, Total Total, Schemas.DeleteRule Rule);
