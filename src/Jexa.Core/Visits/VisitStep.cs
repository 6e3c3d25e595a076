using System.Diagnostics.CodeAnalysis;
using System.Net;
using System.Runtime.CompilerServices;
using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Core.Visits;

/// <summary>The steps of a visit, in their only order.</summary>
public enum VisitStep
{
    Match,
    Parse,
    Load,
    Decide,
    Answer,
}
