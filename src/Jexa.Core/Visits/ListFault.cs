using Jexa.Core.Keys;

namespace Jexa.Core.Visits;

/// <summary>What is wrong with an address of a list.</summary>
/// <param name="Name">The parameter or control at fault.</param>
/// <param name="Raw">What the address says; null if it cannot be decoded.</param>
/// <param name="IsMissing">Whether it is only missing.</param>
internal sealed record ListFault(string Name, string? Raw, KeyFault Fault, bool IsMissing = false);
