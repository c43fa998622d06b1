namespace Pritchel.Core.Networks;

/// <summary>Index of a parameter of a compiled circuit.</summary>
public readonly record struct ParameterId(int Index);

/// <summary>Index of a branch of a compiled circuit.</summary>
public readonly record struct BranchId(int Index);

/// <summary>Index of a source of a compiled circuit.</summary>
public readonly record struct SourceId(int Index);

/// <summary>Index of a discrete state of a compiled circuit: a relay in or out, a fuse whole or blown.</summary>
public readonly record struct StateId(int Index);

/// <summary>Index of a continuous working value kept between solves, such as a lamp's present resistance.</summary>
public readonly record struct MemoryId(int Index);
