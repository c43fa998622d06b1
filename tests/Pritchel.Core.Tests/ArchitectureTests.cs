using System.Reflection;
using System.Reflection.Emit;
using ArchUnitNET.Fluent;
using ArchUnitNET.Fluent.Slices;
using ArchUnitNET.Loader;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using static ArchUnitNET.Fluent.ArchRuleDefinition;
using Architecture = ArchUnitNET.Domain.Architecture;
using Assembly = System.Reflection.Assembly;
using Type = System.Type;

namespace Pritchel.Core.Tests;

/// <summary>Dependencies point inwards: the core knows nobody, and within it none of two folders knows the other back.</summary>
public class ArchitectureTests
{
    private const BindingFlags All =
        BindingFlags.Instance
        | BindingFlags.Static
        | BindingFlags.Public
        | BindingFlags.NonPublic
        | BindingFlags.DeclaredOnly;

    private static readonly Assembly Core = typeof(Circuit).Assembly;
    private static readonly Lazy<Architecture> Drawn = new(() => new ArchLoader().LoadAssemblies(Core).Build());

    [Fact]
    public void The_core_refers_to_nothing_but_the_runtime() =>
        Assert.All(
            Core.GetReferencedAssemblies(),
            a =>
                Assert.True(
                    a.Name!.StartsWith("System", StringComparison.Ordinal)
                        && !a.Name.StartsWith("System.Data", StringComparison.Ordinal),
                    a.Name
                )
        );

    [Fact]
    public void No_namespaces_of_the_core_depend_on_each_other_in_a_circle() =>
        Holds(SliceRuleDefinition.Slices().Matching("Pritchel.Core.(**)").Should().BeFreeOfCycles());

    [Fact]
    public void The_solver_of_networks_knows_no_machine() =>
        Holds(
            Types()
                .That()
                .ResideInNamespaceMatching("^Pritchel.Core.Networks$")
                .Should()
                .NotDependOnAny(Types().That().ResideInNamespaceMatching("^Pritchel.Core.(?!Networks|Units)"))
        );

    /// <summary>Fields, locals, arguments, calls and what is asked for by type: by what the compiler made of it.</summary>
    [Fact]
    public void The_solver_and_diagnosis_name_no_device()
    {
        Type[] concrete = [.. Core.GetTypes().Where(t => t.IsSubclassOf(typeof(Device)) || t == typeof(PartKinds))];
        var devices = concrete.ToHashSet();
        var named = Core.GetTypes()
            .Where(t =>
                t.Namespace is { } space
                && (
                    space.StartsWith("Pritchel.Core.Diagnosis", StringComparison.Ordinal)
                    || space is "Pritchel.Core.Networks" or "Pritchel.Core.Proving" or "Pritchel.Core.Jobs"
                    || t == typeof(CircuitState)
                )
            )
            .SelectMany(t => Names(t).Where(devices.Contains).Select(d => $"{t.FullName} names {d.Name}"))
            .Distinct();
        Assert.Empty(named);
    }

    /// <summary>A kind is asked for what it can do, not by its name: no text of diagnosis is the name of one.</summary>
    [Fact]
    public void Diagnosis_asks_for_no_kind_of_part_by_name()
    {
        var kinds = DeviceKinds.All.Select(k => k.Name).Append("coupling").Append("splice").ToHashSet();
        var texts = Core.GetTypes()
            .Where(t => t.Namespace?.StartsWith("Pritchel.Core.Diagnosis", StringComparison.Ordinal) == true)
            .SelectMany(t =>
                Bodies(t).SelectMany(Tokens).OfType<string>().Where(kinds.Contains).Select(k => $"{t}: {k}")
            )
            .Distinct();
        Assert.Empty(texts);
    }

    private static void Holds(IArchRule rule)
    {
        var judged = rule.Evaluate(Drawn.Value).ToList();
        Assert.NotEmpty(judged);
        Assert.Empty(judged.Where(r => !r.Passed).Select(r => r.Description));
    }

    private static IEnumerable<Type> Names(Type type) =>
        type.GetFields(All)
            .Select(f => f.FieldType)
            .Concat(type.GetMethods(All).SelectMany(m => m.GetParameters().Select(p => p.ParameterType)))
            .Concat(Bodies(type).SelectMany(b => b.GetMethodBody()?.LocalVariables.Select(l => l.LocalType) ?? []))
            .Concat(
                Bodies(type)
                    .SelectMany(Tokens)
                    .OfType<MemberInfo>()
                    .SelectMany(m =>
                        m is Type named ? [named]
                        : m.DeclaringType is { } of ? new[] { of }
                        : []
                    )
            )
            .SelectMany(t => t.IsGenericType ? t.GetGenericArguments().Append(t) : [t]);

    private static IEnumerable<MethodBase> Bodies(Type type) =>
        type.GetMethods(All).Cast<MethodBase>().Concat(type.GetConstructors(All));

    /// <summary>Members, types and texts that a method's instructions name.</summary>
    private static IEnumerable<object> Tokens(MethodBase method)
    {
        if (method.GetMethodBody()?.GetILAsByteArray() is not { } code)
        {
            yield break;
        }

        var (module, at) = (method.Module, 0);
        var ofType = method.DeclaringType is { IsGenericType: true } generic ? generic.GetGenericArguments() : null;
        var ofMethod = method is { IsGenericMethod: true, IsConstructor: false } ? method.GetGenericArguments() : null;
        while (at < code.Length)
        {
            var op = code[at] == 0xFE ? Codes[0xFE00 | code[at + 1]] : Codes[code[at]];
            at += op.Size;
            if (
                op.OperandType
                is OperandType.InlineMethod
                    or OperandType.InlineType
                    or OperandType.InlineTok
                    or OperandType.InlineField
            )
            {
                yield return module.ResolveMember(BitConverter.ToInt32(code, at), ofType, ofMethod)!;
            }
            else if (op.OperandType == OperandType.InlineString)
            {
                yield return module.ResolveString(BitConverter.ToInt32(code, at));
            }

            at += Size(op.OperandType, code, at);
        }
    }

    private static int Size(OperandType operand, byte[] code, int at) =>
        operand switch
        {
            OperandType.InlineNone => 0,
            OperandType.ShortInlineBrTarget or OperandType.ShortInlineI or OperandType.ShortInlineVar => 1,
            OperandType.InlineVar => 2,
            OperandType.InlineI8 or OperandType.InlineR => 8,
            OperandType.InlineSwitch => 4 + (4 * BitConverter.ToInt32(code, at)),
            _ => 4,
        };

    private static readonly Dictionary<int, OpCode> Codes = typeof(OpCodes)
        .GetFields(BindingFlags.Public | BindingFlags.Static)
        .Select(f => (OpCode)f.GetValue(null)!)
        .ToDictionary(o => (int)(ushort)o.Value);
}
