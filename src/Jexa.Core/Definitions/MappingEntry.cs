using System.Text;
using YamlDotNet.Core;
using YamlDotNet.Core.Events;

namespace Jexa.Core.Definitions;

internal readonly record struct MappingEntry(Node Key, Node Value);
