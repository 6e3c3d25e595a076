namespace Jexa.Service.Management;

/// <param name="In"><c>path</c> or <c>query</c>.</param>
/// <param name="Field">The field it is compared with, behind those of the records before it.</param>
/// <param name="Looks">What its text looks like.</param>
/// <param name="Required">Without it the page is not meant.</param>
public sealed record ParameterInfo(string Name, string In, string Field, string Type, string Looks, bool Required);
