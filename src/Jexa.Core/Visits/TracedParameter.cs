using System.Diagnostics.CodeAnalysis;
using System.Net;
using System.Runtime.CompilerServices;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>A parameter as it was read.</summary>
/// <param name="Raw">The decoded text; null if it was absent or could not be decoded.</param>
public readonly record struct TracedParameter(string Name, string? Raw, KeyReading Reading);
