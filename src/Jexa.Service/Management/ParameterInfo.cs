namespace Jexa.Service.Management;

/// <param name="In"><c>path</c> or <c>query</c>.</param>
/// <param name="Field">The field that it is compared with, after the names of the records on the way to it.</param>
/// <param name="Looks">What its text looks like.</param>
/// <param name="Required">Whether the page requires it.</param>
public sealed record ParameterInfo(string Name, string In, string Field, string Type, string Looks, bool Required);
