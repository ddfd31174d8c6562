~V
VERS. 1.2:
WRAP. YES:
~W
WELL. WELL: Old
~C
DEPT.M:
A.:
B.:
~A
1
2 3
4 5 6
