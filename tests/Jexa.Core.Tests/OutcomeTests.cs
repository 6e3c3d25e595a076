using System.Runtime.CompilerServices;
using Jexa.Core.Visits;

namespace Jexa.Core.Tests;

public class OutcomeTests
{
    [Fact]
    public void The_words_of_outcomes_are_those_of_all_outcomes()
    {
        var words = typeof(Outcome)
            .GetNestedTypes()
            .Where(type => type.IsSubclassOf(typeof(Outcome)))
            .Select(type =>
            {
                var constructor = type.GetConstructors().Single();
                var values = constructor
                    .GetParameters()
                    .Select(parameter =>
                        parameter.ParameterType.IsValueType
                            ? RuntimeHelpers.GetUninitializedObject(parameter.ParameterType)
                            : null
                    );
                return ((Outcome)constructor.Invoke([.. values])).Word;
            });
        Assert.Equal(Outcome.Words.Order(), words.Order());
    }
}
